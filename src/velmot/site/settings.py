"""Django's settings: one process, on this machine only, safe by default."""

from __future__ import annotations

import gc
import os
import secrets
import tempfile
from pathlib import Path

from django.utils.functional import SimpleLazyObject

from velmot.formats import audio_file, table
from velmot.site.network import behind
from velmot.site.paths import BUILT, DATA
from velmot.storage.backups import AUDIO as _AUDIO
from velmot.storage.backups import DATABASE

# A plan makes thousands of small objects at once, and a session never holds a circle of them:
# looking for circles every 700 objects, as is usual, takes a tenth of a large preview's time.
gc.set_threshold(20_000, 20, 50)


def _secret() -> str:
    """The signing key, made at first start and kept beside the database, readable by its owner only; whole or not there."""
    path = DATA / "secret.txt"
    if not path.exists() or not path.read_text().strip():
        DATA.mkdir(parents=True, exist_ok=True)
        handle, made = tempfile.mkstemp(dir=DATA, prefix="secret")  # which only its owner may read
        with os.fdopen(handle, "w") as file:
            file.write(secrets.token_urlsafe(48))
            file.flush()
            os.fsync(file.fileno())
        Path(made).replace(path)
    return path.read_text()


SECRET_KEY = SimpleLazyObject(_secret)  # nothing is written before it is needed
DEBUG = False
ALLOWED_HOSTS = ["127.0.0.1", "localhost", "[::1]"]
BEHIND = behind(os.environ)
"""The address of the proxy in front, where Velmot is served to a network; it alone is answered then, and over TLS alone."""
PROXY_SECRET = os.environ.get("VELMOT_PROXY_SECRET", "")
if BEHIND:
    ALLOWED_HOSTS = [BEHIND.removeprefix("https://").rstrip("/")]
    CSRF_TRUSTED_ORIGINS = [BEHIND.rstrip("/")]
    CSRF_COOKIE_SECURE = True

INSTALLED_APPS = ["django.contrib.staticfiles", "django_vite", "velmot.storage.apps.StorageConfig"]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "velmot.site.middleware.SafetyHeadersMiddleware",
    "velmot.site.middleware.HostCheckMiddleware",
    "velmot.site.middleware.ProxyMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "velmot.site.middleware.UploadLimitMiddleware",
    "velmot.site.middleware.TextMiddleware",
    "django.middleware.common.CommonMiddleware",
    "velmot.site.middleware.ApiCsrfMiddleware",
]
ROOT_URLCONF = "velmot.site.urls"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [Path(__file__).parent / "templates"],
        "OPTIONS": {"context_processors": ["django.template.context_processors.request"]},
    }
]

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": DATA / DATABASE,
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 20,
            # FULL: what was acknowledged outlives a power cut, not only a killed process.
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA foreign_keys=ON;",
        },
    }
}

STATIC_URL = "/static/"
STATICFILES_DIRS = [BUILT] if BUILT.exists() else []
WHITENOISE_USE_FINDERS = True
WHITENOISE_AUTOREFRESH = False
WHITENOISE_ALLOW_ALL_ORIGINS = False
DEVELOPING = os.environ.get("VELMOT_DEV")  # the port of the server in front, which serves the screen as it is worked on
DJANGO_VITE = {
    "default": {
        "dev_mode": bool(DEVELOPING),
        "dev_server_host": "127.0.0.1",
        "dev_server_port": int(DEVELOPING or 0),
        "manifest_path": BUILT / "manifest.json",
    }
}

_TYPEFACES = "node_modules/@fontsource-variable/atkinson-hyperlegible"
FIRST_FONTS = tuple(
    f"{_TYPEFACES}-{x}/files/atkinson-hyperlegible-{x}-latin-wght-normal.woff2" for x in ("next", "mono")
)
"""What the page's first text is set in, as the built page's list names it."""

AUDIO = DATA / _AUDIO
LARGEST_UPLOAD = table.LARGEST + 1024 * 1024
LARGEST_AUDIO = audio_file.LARGEST + 1024 * 1024
DATA_UPLOAD_MAX_MEMORY_SIZE = 12 * 1024 * 1024
DATA_UPLOAD_MAX_NUMBER_FILES = 16  # more than one is refused in words, by the route
CSRF_COOKIE_NAME = "velmot_csrf"
CSRF_COOKIE_SAMESITE = "Strict"
SECURE_REFERRER_POLICY = "no-referrer"
SECURE_CROSS_ORIGIN_OPENER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"

USE_TZ = True
TIME_ZONE = "UTC"
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "loggers": {
        "velmot": {"handlers": ["console"], "level": "INFO"},
        "django.security.DisallowedHost": {"handlers": [], "propagate": False},
        "waitress.queue": {"level": "ERROR"},
    },
}
