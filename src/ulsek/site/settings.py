"""Settings. Everything that differs between machines comes from the environment, which `bin/lib.sh` fills in."""

from __future__ import annotations

import os
from pathlib import Path
from urllib.parse import urlsplit

from csp.constants import NONCE, NONE, SELF
from django.core.exceptions import ImproperlyConfigured

from .headers import static_headers

ROOT = Path(__file__).resolve().parents[3]
WEB_DIST = ROOT / "web" / "dist"
FORMATS = ROOT / "docs" / "formats"


def _env(name: str, default: str = "") -> str:
    return os.environ.get(name, default)


DEBUG = False
SECRET_KEY = _env("ULSEK_SECRET_KEY")
if not SECRET_KEY:
    raise ImproperlyConfigured("ULSEK_SECRET_KEY is not set: bin/start and bin/test make one; whoever knows it can sign in as anybody")
# Whether our own proxy stands before the site, on a socket that nobody else reaches: it says who asks.
BEHIND_PROXY = _env("ULSEK_BEHIND_PROXY") == "yes"
ALLOWED_HOSTS = _env("ULSEK_HOSTS", "127.0.0.1,localhost,testserver").split(",")
BASE_ADDRESS = _env("ULSEK_ADDRESS", "http://127.0.0.1:8713")
CSRF_TRUSTED_ORIGINS = [BASE_ADDRESS]
CERTIFICATE = _env("ULSEK_CERTIFICATE")
# The hub of instruments stands beside the site: streams never take a request's place. Behind the proxy it listens on a socket.
INSTRUMENTS_ADDRESS = _env("ULSEK_INSTRUMENTS", "http://127.0.0.1:8714")
_HUB_ORIGIN = "{0.scheme}://{0.netloc}".format(urlsplit(INSTRUMENTS_ADDRESS))
INSTRUMENTS_SOCKET = _env("ULSEK_INSTRUMENTS_SOCKET")
# Serial ports and addresses that a lead may connect, as patterns: whoever runs the machine says which, since the site opens them.
INSTRUMENT_ADDRESSES = _env("ULSEK_INSTRUMENT_ADDRESSES").split()
# Where alerts go: on this machine a stand-in for a push service.
PUSH_SERVICE = _env("ULSEK_PUSH_SERVICE", "http://127.0.0.1:9717")

INSTALLED_APPS = [
    "django.contrib.contenttypes",
    "django.contrib.auth",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "axes",
    "csp",
    "ulsek.site",
    "django_tasks",
    "django_tasks_db",
    "ulsek.team",
    "ulsek.sync",
    "ulsek.jobs",
    "ulsek.devices",
    "ulsek.stores",
    "ulsek.specs",
    "ulsek.batches",
    "ulsek.sums",
    "ulsek.citrus",
]
MIDDLEWARE = [
    "ulsek.site.middleware.request_ids",
    "ulsek.site.middleware.real_address",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "csp.middleware.CSPMiddleware",
    "ulsek.site.problems.words_for_people",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "axes.middleware.AxesMiddleware",
]
ROOT_URLCONF = "ulsek.site.urls"
WSGI_APPLICATION = "ulsek.site.wsgi.application"
TEMPLATES: list[dict[str, object]] = []

DATABASES = {
    "default": {
        "ENGINE": "ulsek.site.database",
        "NAME": _env("ULSEK_DB_NAME", "ulsek"),
        "USER": _env("ULSEK_DB_USER", "ulsek"),
        "PASSWORD": _env("ULSEK_DB_PASSWORD"),
        "HOST": "127.0.0.1",
        "PORT": _env("ULSEK_DB_PORT", "3713"),
        "CONN_MAX_AGE": 600,
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {
            "charset": "utf8mb4",
            "isolation_level": "read committed",
            "init_command": "SET sql_mode='STRICT_ALL_TABLES', innodb_lock_wait_timeout=5",
        },
        "TEST": {"CHARSET": "utf8mb4", "COLLATION": "utf8mb4_unicode_520_ci"},
    }
}
# What takes long is a row of the database, done by `manage.py worker`; no broker.
TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend"}}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTH_USER_MODEL = "team.Person"
AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
PASSWORD_HASHERS = ["ulsek.team.hashers.Argon2"]
AUTH_PASSWORD_VALIDATORS = [{"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}}]
AXES_FAILURE_LIMIT = "ulsek.team.known_devices.failure_limit"
AXES_CLIENT_IP_CALLABLE = "ulsek.team.known_devices.client_address"
AXES_COOLOFF_TIME = 0.25
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_ON_SUCCESS = True
AXES_VERBOSE = False
AXES_LOCKOUT_CALLABLE = "ulsek.site.problems.locked_out"

SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
IS_TLS = BASE_ADDRESS.startswith("https:")
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = IS_TLS
SECURE_HSTS_SECONDS = 365 * 24 * 3600 if IS_TLS else 0
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https") if BEHIND_PROXY and IS_TLS else None
SESSION_COOKIE_AGE = 60 * 60 * 24 * 14
X_FRAME_OPTIONS = "DENY"
SECURE_REFERRER_POLICY = "same-origin"
SECURE_CROSS_ORIGIN_OPENER_POLICY = "same-origin"
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [NONE],
        "script-src": [SELF],
        "style-src": [SELF, NONCE],
        "img-src": [SELF, "data:"],
        "font-src": [SELF],
        "connect-src": [SELF, _HUB_ORIGIN],
        "manifest-src": [SELF],
        "worker-src": [SELF],
        "base-uri": [NONE],
        "form-action": [SELF],
        "frame-ancestors": [NONE],
    }
}
# A picture of the size that is stated (`keep_photo.MOST_BYTES`) grows by a third on its way, as base64.
DATA_UPLOAD_MAX_MEMORY_SIZE = 1_400_000

LANGUAGE_CODE = "en-gb"
USE_I18N = False
USE_TZ = True
TIME_ZONE = "UTC"

STATIC_URL = "/static/"
STATICFILES_DIRS = [WEB_DIST] if WEB_DIST.is_dir() else []
STATIC_ROOT = Path(_env("ULSEK_STATE") or ROOT / ".run") / "static"
WHITENOISE_USE_FINDERS = True
WHITENOISE_AUTOREFRESH = False
WHITENOISE_ADD_HEADERS_FUNCTION = static_headers
WHITENOISE_MAX_AGE = 60 * 60 * 24 * 365

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "filters": {"request_id": {"()": "ulsek.site.middleware.WithRequestId"}},
    "formatters": {"line": {"format": "%(asctime)s %(levelname)s %(request_id)s %(name)s: %(message)s"}},
    "handlers": {"console": {"class": "logging.StreamHandler", "filters": ["request_id"], "formatter": "line"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}
