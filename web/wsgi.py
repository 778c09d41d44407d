"""The WSGI application."""

import gc
import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "web.settings")
application = get_wsgi_application()

# An answer makes tens of thousands of small values that die at once by their counts. Looking for cycles among them, and
# among all that the libraries loaded, would halt one answer in twenty.
gc.freeze()
gc.set_threshold(100_000, 20, 50)
