"""Settings. What differs by machine comes from the environment, set by ./bilge."""

from __future__ import annotations

import os
from pathlib import Path

from config.timed_log import LOGGING as TIMED_LOGGING

ROOT = Path(__file__).resolve().parent.parent.parent
WEB_DIST = ROOT / "web" / "dist"
DEMO = ROOT / "demo"

SECRET_KEY = os.environ["BILGE_SECRET_KEY"]
DEBUG = False

# under which names it is reached, and how: set by ./bilge start --lan or by hand (docs/operate.md)
ALLOWED_HOSTS = [
    name for name in os.environ.get("BILGE_NAMES", "127.0.0.1,localhost").split(",") if name
]
ADDRESS = os.environ.get("BILGE_ADDRESS", "")
AUTHORITY = os.environ.get("BILGE_AUTHORITY", "")
SECURE = os.environ.get("BILGE_SECURE") == "1"
SESSION_COOKIE_SECURE = SECURE
CSRF_COOKIE_SECURE = SECURE
CSRF_TRUSTED_ORIGINS = [
    origin for origin in os.environ.get("BILGE_ORIGINS", "").split(",") if origin
]
BEHIND_PROXY = os.environ.get("BILGE_BEHIND_PROXY") == "1"
if BEHIND_PROXY:  # only then: anyone could send these headers
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
ROOT_URLCONF = "config.urls"

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "axes",
    "csp",
    "ninja",
    "accounts",
    "loads",
    "builds",
    "records",
    "forecasts",
    "shop",
    "runs",
    "learning",
    "live",
    "studies",
    "django_tasks",
    "django_tasks_db",
    "config",
]

MIDDLEWARE = [
    "config.middleware.ProxyMiddleware",
    "config.middleware.CompressMiddleware",
    "django.middleware.security.SecurityMiddleware",
    "csp.middleware.CSPMiddleware",
    "config.middleware.AnswerMiddleware",
    "config.middleware.UploadLimitMiddleware",
    "config.middleware.PermissionsPolicyMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "config.zones.ZoneMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "axes.middleware.AxesMiddleware",
    "config.middleware.ReadAgainMiddleware",
]

TEMPLATES: list[dict[str, object]] = []

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.mysql",
        "HOST": os.environ.get("BILGE_DB_HOST", "127.0.0.1"),
        "PORT": os.environ.get("BILGE_DB_PORT", ""),
        "NAME": os.environ.get("BILGE_DB_NAME", "bilge"),
        "USER": os.environ.get("BILGE_DB_USER", "bilge"),
        "PASSWORD": os.environ.get("BILGE_DB_PASSWORD", ""),
        "CONN_MAX_AGE": 60,
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {
            "charset": "utf8mb4",
            # Case-blind on purpose: nobody signs up as "Ada" beside "ada".
            "init_command": "SET NAMES utf8mb4 COLLATE utf8mb4_unicode_ci",
            "isolation_level": "read committed",
        },
        "TEST": {
            "NAME": "test_bilge",
            "CHARSET": "utf8mb4",
            "COLLATION": "utf8mb4_unicode_ci",
        },
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTH_USER_MODEL = "accounts.User"
AUTHENTICATION_BACKENDS = [
    "axes.backends.AxesStandaloneBackend",
    "django.contrib.auth.backends.ModelBackend",
]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
AXES_FAILURE_LIMIT = 6
AXES_COOLOFF_TIME = 0.25  # hours
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_ON_SUCCESS = True
AXES_LOCKOUT_CALLABLE = "config.problems.locked_out"

SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_AGE = 14 * 24 * 3600
CSRF_COOKIE_SAMESITE = "Lax"
CSRF_FAILURE_VIEW = "config.problems.csrf_refused"

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": ["'none'"],
        "script-src": ["'self'"],
        "style-src": ["'self'"],
        "img-src": ["'self'", "data:", "blob:"],
        "font-src": ["'self'"],
        "connect-src": ["'self'"],
        "manifest-src": ["'self'"],
        "base-uri": ["'none'"],
        "form-action": ["'self'"],
        "frame-ancestors": ["'none'"],
    }
}
X_FRAME_OPTIONS = "DENY"
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
SECURE_CROSS_ORIGIN_OPENER_POLICY = "same-origin"

LARGEST_UPLOAD_BYTES = 200 * 1024 * 1024
LARGEST_BODY_BYTES = LARGEST_UPLOAD_BYTES + 64 * 1024  # with a form's own lines round the file
UPLOADS = os.environ.get("BILGE_UPLOADS", str(ROOT / ".bilge" / "uploads"))
DATA_UPLOAD_MAX_MEMORY_SIZE = 2 * 1024 * 1024

CACHES = {
    "default": {"BACKEND": "django.core.cache.backends.locmem.LocMemCache"},
    # whole answers of some 700 kB each: what was shown a moment ago is shown again at once
    "forecasts": {
        "BACKEND": "django.core.cache.backends.locmem.LocMemCache",
        "LOCATION": "forecasts",
        "TIMEOUT": None,
        "OPTIONS": {"MAX_ENTRIES": 40},
    },
}

# where runs wait for a worker; another backend of django-tasks takes its place by its path
TASKS = {
    "default": {
        "BACKEND": os.environ.get("BILGE_TASKS", "django_tasks_db.DatabaseBackend"),
        "QUEUES": [],
    }
}

# after this long without a sign of life from its worker a run is put back
LIVE_PORT = int(os.environ.get("BILGE_LIVE_PORT", "8792"))
"""Of this machine's own socket that loggers send to; another where it is taken."""
RUN_LEASE_S = float(os.environ.get("BILGE_RUN_LEASE_S", "10"))

# how much the records of a workshop's runs may take before the oldest are dropped
RUN_RECORDS_BYTES = int(float(os.environ.get("BILGE_RUN_RECORDS_GB", "2")) * 1e9)

WHITENOISE_ROOT = str(WEB_DIST)
WHITENOISE_MAX_AGE = 3600
WHITENOISE_ALLOW_ALL_ORIGINS = False
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/assets/.+-[\w-]{8}\.\w+$"  # named by their contents
STATIC_URL = "/static/"

USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en"
USE_I18N = False

LOGGING = TIMED_LOGGING
