"""`python -m kagami`."""

import gc
import os
import sys

if __name__ == "__main__":
    os.environ.setdefault("PYDANTIC_DISABLE_PLUGINS", "__all__")  # looking for some takes longer than reading a plan
    # Almost all that is loaded stays, so that looking through it again and again for what is free only takes time.
    gc.disable()
    from kagami.command_line import main

    gc.freeze()
    gc.enable()
    sys.exit(main(sys.argv[1:]))
