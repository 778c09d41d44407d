"""Django's management commands: `python -m web COMMAND`."""

import os
import sys

from django.core.management import execute_from_command_line

if __name__ == "__main__":
    os.environ.setdefault(
        "DJANGO_SETTINGS_MODULE", "web.settings_test" if sys.argv[1:2] == ["test"] else "web.settings"
    )
    execute_from_command_line(["kagami", *sys.argv[1:]])
