"""Settings. Everything that differs between machines is read and checked by `ulsek.site.environment`."""

from __future__ import annotations

import os
from pathlib import Path
from urllib.parse import urlsplit

from csp.constants import NONCE, NONE, SELF

from .environment import from_here
from .headers import static_headers

ROOT = Path(__file__).resolve().parents[3]
WEB_DIST = ROOT / "web" / "dist"
FORMATS = ROOT / "docs" / "formats"


_SAID = from_here()

DEBUG = False
# Whoever knows it can sign in as anybody.
SECRET_KEY = _SAID["ULSEK_SECRET_KEY"]
# Whether our own proxy stands before the site, on a socket that nobody else reaches: it says who asks.
BEHIND_PROXY = _SAID["ULSEK_BEHIND_PROXY"] == "yes"
ALLOWED_HOSTS = _SAID["ULSEK_HOSTS"].split(",")
BASE_ADDRESS = _SAID["ULSEK_ADDRESS"]
CSRF_TRUSTED_ORIGINS = [BASE_ADDRESS]
CERTIFICATE = _SAID["ULSEK_CERTIFICATE"]
# The hub of instruments stands beside the site: streams never take a request's place. Behind the proxy it listens on a socket.
INSTRUMENTS_ADDRESS = _SAID["ULSEK_INSTRUMENTS"]
_HUB_ORIGIN = "{0.scheme}://{0.netloc}".format(urlsplit(INSTRUMENTS_ADDRESS))
INSTRUMENTS_SOCKET = _SAID["ULSEK_INSTRUMENTS_SOCKET"]
# Serial ports and addresses that a lead may connect, as patterns: whoever runs the machine says which, since the site opens them.
INSTRUMENT_ADDRESSES = _SAID["ULSEK_INSTRUMENT_ADDRESSES"].split()
# A push service that alerts may go to besides those of the public network: the stand-in that ships.
PUSH_SERVICE = _SAID["ULSEK_PUSH_SERVICE"]
PUSH_CONTACT = f"mailto:{_SAID['ULSEK_CONTACT']}" if _SAID["ULSEK_CONTACT"] else f"mailto:operator@{urlsplit(BASE_ADDRESS).hostname}"
# Figures for monitoring: whoever has the token may read them; without one nobody.
METRICS_TOKEN = _SAID["ULSEK_METRICS_TOKEN"]
METRICS_OF_ALL_PROCESSES = "PROMETHEUS_MULTIPROC_DIR" in os.environ
# Mail goes out where a server for it is named.
EMAIL_HOST = _SAID["ULSEK_SMTP_HOST"]
EMAIL_PORT = int(_SAID["ULSEK_SMTP_PORT"])
EMAIL_HOST_USER = _SAID["ULSEK_SMTP_USER"]
EMAIL_HOST_PASSWORD = _SAID["ULSEK_SMTP_PASSWORD"]
EMAIL_USE_TLS = _SAID["ULSEK_SMTP_TLS"] == "starttls"
EMAIL_USE_SSL = _SAID["ULSEK_SMTP_TLS"] == "tls"
EMAIL_TIMEOUT = 10
DEFAULT_FROM_EMAIL = _SAID["ULSEK_MAIL_FROM"]

INSTALLED_APPS = [
    "django.contrib.contenttypes",
    "django.contrib.auth",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "axes",
    "csp",
    "django_otp",
    "django_otp.plugins.otp_totp",
    "django_otp.plugins.otp_static",
    "ulsek.site",
    "django_tasks",
    "django_tasks_db",
    "ulsek.team",
    "ulsek.sync",
    "ulsek.jobs",
    "ulsek.archives",
    "ulsek.devices",
    "ulsek.stores",
    "ulsek.specs",
    "ulsek.batches",
    "ulsek.sums",
    "ulsek.citrus",
    "ulsek.tasting",
    "ulsek.planning",
]
MIDDLEWARE = [
    "ulsek.site.middleware.request_ids",
    "ulsek.site.middleware.real_address",
    "ulsek.site.metrics.counted",
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
# Django's admin, for the operator: off by default. Nothing else of the site renders a template or needs its middleware.
HAS_ADMIN = _SAID["ULSEK_ADMIN"] == "yes"
if HAS_ADMIN:
    INSTALLED_APPS += ["django.contrib.admin.apps.SimpleAdminConfig", "django.contrib.messages"]
    MIDDLEWARE += ["django_otp.middleware.OTPMiddleware", "django.contrib.messages.middleware.MessageMiddleware"]
    TEMPLATES = [
        {
            "BACKEND": "django.template.backends.django.DjangoTemplates",
            "APP_DIRS": True,
            "OPTIONS": {
                "context_processors": [
                    "django.template.context_processors.request",
                    "django.contrib.auth.context_processors.auth",
                    "django.contrib.messages.context_processors.messages",
                ]
            },
        }
    ]

DATABASES = {
    "default": {
        "ENGINE": "ulsek.site.database",
        "NAME": _SAID["ULSEK_DB_NAME"],
        "USER": _SAID["ULSEK_DB_USER"],
        "PASSWORD": _SAID["ULSEK_DB_PASSWORD"],
        # A socket goes before a host: the client library takes a path for one.
        "HOST": _SAID["ULSEK_DB_SOCKET"] or _SAID["ULSEK_DB_HOST"],
        "PORT": "" if _SAID["ULSEK_DB_SOCKET"] else _SAID["ULSEK_DB_PORT"],
        "CONN_MAX_AGE": 600,
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {
            "charset": "utf8mb4",
            "isolation_level": "read committed",
            "init_command": "SET sql_mode='STRICT_ALL_TABLES', innodb_lock_wait_timeout=5",
            # With an authority named, a database that cannot show its certificate is not spoken to.
            **({"ssl": {"ca": _SAID["ULSEK_DB_TLS_CA"]}} if _SAID["ULSEK_DB_TLS_CA"] else {}),
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
# Not ours to say: other names under a house's domain may be served without TLS, and nobody has asked the browsers' makers to list it. What comes without TLS
# reaches nginx alone, which sends it on. A default on the clock of a house is meant as it stands: the check takes it for a mistake for twenty seconds of a day,
# in which an installation would fail.
SILENCED_SYSTEM_CHECKS = ["security.W005", "security.W008", "security.W021", "fields.W161"]
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
STATIC_ROOT = Path(_SAID["ULSEK_STATE"] or ROOT / ".run") / "static"
WHITENOISE_USE_FINDERS = True
WHITENOISE_AUTOREFRESH = False
WHITENOISE_ADD_HEADERS_FUNCTION = static_headers
WHITENOISE_MAX_AGE = 60 * 60 * 24 * 365

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "filters": {"request_id": {"()": "ulsek.site.middleware.WithRequestId"}},
    "formatters": {
        "lines": {"format": "%(asctime)s %(levelname)s %(request_id)s %(name)s: %(message)s"},
        "json": {"()": "ulsek.site.middleware.JsonLines"},
    },
    "handlers": {"console": {"class": "logging.StreamHandler", "filters": ["request_id"], "formatter": _SAID["ULSEK_LOG"]}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}
