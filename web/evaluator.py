"""Loaded once, before evaluators are forked off: Django, and all that they will need."""

import os

import django

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "web.settings")
django.setup()

from kagami.warm import warm  # noqa: E402  (after Django is set up)
from web.bench import brought as _brought  # noqa: E402,F401
from web.bench import works as _bench  # noqa: E402,F401
from web.delivery import files as _files  # noqa: E402,F401
from web.delivery import proposals as _proposals  # noqa: E402,F401
from web.delivery import seeing as _seeing  # noqa: E402,F401
from web.delivery import works as _delivery  # noqa: E402,F401
from web.evaluation import calls as _calls  # noqa: E402,F401
from web.faces import works as _faces  # noqa: E402,F401
from web.range import works as _range  # noqa: E402,F401
from web.sketches import works as _sketches  # noqa: E402,F401

warm()
