"""Django's settings: one process, on this machine only, safe by default."""

from __future__ import annotations

import gc
import os
import secrets
from pathlib import Path

# A plan makes thousands of small objects at once, and a session never holds a circle of them:
# looking for circles every 700 objects, as is usual, takes a tenth of a large preview's time.
gc.set_threshold(20_000, 20, 50)

ROOT = Path(__file__).resolve().parents[3]
DATA = Path(os.environ.get("VELMOT_DATA", ROOT / "var"))
BUILT = ROOT / "frontend" / "dist"


def _secret() -> str:
    """The signing key, made at first start and kept beside the database, readable by its owner only."""
    path = DATA / "secret.txt"
    if not path.exists():
        DATA.mkdir(parents=True, exist_ok=True)
        path.touch(mode=0o600)
        path.write_text(secrets.token_urlsafe(48))
    return path.read_text()


SECRET_KEY = _secret()
DEBUG = False
ALLOWED_HOSTS = ["127.0.0.1", "localhost", "[::1]"]

INSTALLED_APPS = ["django.contrib.staticfiles", "django_vite", "velmot.storage.apps.StorageConfig"]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "velmot.site.middleware.HostCheckMiddleware",
    "velmot.site.middleware.SafetyHeadersMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "velmot.site.middleware.UploadLimitMiddleware",
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
        "NAME": DATA / "velmot.sqlite3",
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
DJANGO_VITE = {"default": {"dev_mode": False, "manifest_path": BUILT / "manifest.json"}}

LARGEST_UPLOAD = 65 * 1024 * 1024
DATA_UPLOAD_MAX_MEMORY_SIZE = 8 * 1024 * 1024
DATA_UPLOAD_MAX_NUMBER_FILES = 1
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
