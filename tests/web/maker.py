"""A maker of packages in a process of its own, on the database of the tests."""

from __future__ import annotations

import os
import subprocess
import sys

from django.conf import settings
from django.db import connection


class Maker:
    """Works off the queue; `stop` ends it kindly, `kill` does not."""

    def __init__(self) -> None:
        database = connection.settings_dict
        env = dict(os.environ, KAGAMI_SECRET_KEY=settings.SECRET_KEY, DJANGO_SETTINGS_MODULE="web.settings_test")
        env.update({f"KAGAMI_DB_{name}": str(database[name]) for name in ("HOST", "PORT", "NAME", "USER", "PASSWORD")})
        self.process = subprocess.Popen(
            [sys.executable, "-m", "web.makers"],
            cwd=settings.BASE_DIR,
            env=env,
            stdin=subprocess.DEVNULL,
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
        )

    def stop(self) -> None:
        """End it, and wait until its connections are closed."""
        self.process.terminate()
        self.process.wait(20)

    def kill(self) -> None:
        """End it in the middle of whatever it does."""
        self.process.kill()
        self.process.wait(20)
