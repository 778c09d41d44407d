"""Settings. All that differs between machines comes from the environment; see the README for production."""

import datetime
import json
import os
import pathlib

BASE_DIR = pathlib.Path(__file__).resolve().parent.parent

SECRET_KEY = os.environ["KAGAMI_SECRET_KEY"]
DEBUG = os.environ.get("KAGAMI_DEBUG") == "1"
ALLOWED_HOSTS = os.environ.get("KAGAMI_HOSTS", "127.0.0.1,localhost").split(",")
CSRF_TRUSTED_ORIGINS = [f"https://{host}" for host in ALLOWED_HOSTS if host not in ("127.0.0.1", "localhost", "*")]
BEHIND_HTTPS = os.environ.get("KAGAMI_HTTPS") == "1"

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "axes",
    "csp",
    "procrastinate.contrib.django",
    "web.accounts",
    "web.signing",
    "web.marks",
    "web.sketches",
    "web.preparing",
    "web.shelf",
    "web.bench",
    "web.colourways",
    "web.delivery",
    "web.faces",
    "web.range",
]

MIDDLEWARE = [
    "web.tracing.traced",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.middleware.gzip.GZipMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.contrib.auth.middleware.LoginRequiredMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "web.language.spoken_language",
    "web.tracing.private_pages",
    "axes.middleware.AxesMiddleware",
    "web.came_back.CameBack",
    "web.gone.Gone",
    "web.unanswered.Unanswered",
]

AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
AXES_FAILURE_LIMIT = 8
AXES_COOLOFF_TIME = datetime.timedelta(minutes=15)
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_ON_SUCCESS = True
AXES_LOCKOUT_CALLABLE = "web.signing.views.locked_out"
AXES_VERBOSE = False
AXES_DISABLE_ACCESS_LOG = True

ROOT_URLCONF = "web.urls"
ASGI_APPLICATION = "web.asgi.application"

TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [BASE_DIR / "web" / "templates"],
        "APP_DIRS": True,
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.auth.context_processors.auth",
            ],
        },
    }
]

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "HOST": os.environ.get("KAGAMI_DB_HOST", "127.0.0.1"),
        "PORT": os.environ.get("KAGAMI_DB_PORT", "5432"),
        "NAME": os.environ.get("KAGAMI_DB_NAME", "kagami"),
        "USER": os.environ.get("KAGAMI_DB_USER", "kagami"),
        "PASSWORD": os.environ.get("KAGAMI_DB_PASSWORD", ""),
        "CONN_MAX_AGE": 60,
        "CONN_HEALTH_CHECKS": True,
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator"},
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
LOGIN_URL = "sign-in"
LOGIN_REDIRECT_URL = "shelf"
LOGOUT_REDIRECT_URL = "sign-in"

LANGUAGE_CODE = "en-gb"
LOCALE_PATHS = [BASE_DIR / "locale"]
TIME_ZONE = "UTC"
USE_TZ = True

STATIC_URL = "static/"
STATIC_ROOT = pathlib.Path(os.environ.get("KAGAMI_STATIC_ROOT", BASE_DIR / ".kagami" / "static"))
STATICFILES_DIRS = [BASE_DIR / "web" / "static"]
MEDIA_ROOT = pathlib.Path(os.environ.get("KAGAMI_FILES", BASE_DIR / ".kagami" / "files"))
"""Packages, where no other storage is set. They are handed out by views alone, never by their path."""
STORAGES = {
    "default": {
        "BACKEND": os.environ.get("KAGAMI_STORAGE", "django.core.files.storage.FileSystemStorage"),
        "OPTIONS": json.loads(os.environ.get("KAGAMI_STORAGE_OPTIONS", "{}")),
    },
    "staticfiles": {"BACKEND": "web.static_storage.ModuleStorage"},
}

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": ["'none'"],
        "script-src": ["'self'"],
        "style-src": ["'self'"],
        "font-src": ["'self'"],
        "img-src": ["'self'"],
        "connect-src": ["'self'"],  # the live socket too: of the same host, as CSP Level 3 matches schemes
        "form-action": ["'self'"],
        "frame-ancestors": ["'none'"],
        "base-uri": ["'none'"],
    }
}
X_FRAME_OPTIONS = "DENY"
SECURE_REFERRER_POLICY = "same-origin"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE_SSL_REDIRECT = BEHIND_HTTPS
SECURE_HSTS_SECONDS = 31_536_000 if BEHIND_HTTPS else 0
if BEHIND_HTTPS:
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")

DATA_UPLOAD_MAX_MEMORY_SIZE = 700_000
FILE_UPLOAD_MAX_MEMORY_SIZE = 700_000
DATA_UPLOAD_MAX_NUMBER_FIELDS = 200


LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "filters": {"whom": {"()": "web.tracing.WithRequest"}},
    "formatters": {
        "json": {
            "()": "pythonjsonlogger.json.JsonFormatter",
            "format": "%(asctime)s %(levelname)s %(name)s %(message)s %(request_id)s %(user_id)s %(mark)s %(revision)s",
        }
    },
    "handlers": {"out": {"class": "logging.StreamHandler", "formatter": "json", "filters": ["whom"]}},
    "root": {"handlers": ["out"], "level": "WARNING"},
    "loggers": {"django.request": {"level": "ERROR"}, "django.server": {"level": "ERROR"}, "axes": {"level": "ERROR"}},
}
