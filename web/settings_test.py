"""Settings of the tests: the same, but for a quick password hash and plain static names."""

import atexit
import os
import shutil
import tempfile

os.environ.setdefault("KAGAMI_SECRET_KEY", "only-for-tests")
if "KAGAMI_TEST_FILES" not in os.environ:  # processes that tests start share the folder of the first
    os.environ["KAGAMI_TEST_FILES"] = tempfile.mkdtemp(prefix="kagami-files-")
    atexit.register(shutil.rmtree, os.environ["KAGAMI_TEST_FILES"], ignore_errors=True)
os.environ["KAGAMI_FILES"] = os.environ["KAGAMI_TEST_FILES"]

from web.settings import *  # noqa: F403

# Playwright's synchronous interface runs an event loop in the test's thread, and the ORM refuses to work beside one.
os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"

PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}
# Static files come straight from their folders here.
MIDDLEWARE = [name for name in MIDDLEWARE if "whitenoise" not in name]  # noqa: F405
TEST_RUNNER = "web.test_runner.KagamiRunner"
AXES_ENABLED = False
