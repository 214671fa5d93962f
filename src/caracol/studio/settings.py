"""Django settings: one machine by default, everything else from the environment."""

from pathlib import Path

from environ import Env

ENV = Env()
ROOT = Path(__file__).resolve().parents[3]
VAR = Path(ENV("CARACOL_VAR", default=str(ROOT / "var")))
VAR.mkdir(parents=True, exist_ok=True)
WEB_DIST = Path(ENV("CARACOL_WEB", default=str(ROOT / "web" / "dist")))

# Caracol runs on its owner's machine and has no accounts; the key signs nothing that lasts.
SECRET_KEY = ENV("CARACOL_SECRET", default="caracol-on-this-machine-only")
DEBUG = ENV.bool("CARACOL_DEBUG", default=False)
ALLOWED_HOSTS = ENV.list("CARACOL_HOSTS", default=["localhost", "127.0.0.1", "[::1]", "testserver"])

INSTALLED_APPS = ["django_tasks", "django_tasks_db", "caracol.studio"]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.middleware.common.CommonMiddleware",
]
ROOT_URLCONF = "caracol.studio.urls"
TEMPLATES: list[dict[str, object]] = []
WSGI_APPLICATION = "caracol.studio.wsgi.application"
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
USE_TZ = True
APPEND_SLASH = False

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": VAR / "caracol.sqlite3",
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 20,
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL;",
        },
    }
}
TASKS = {
    "default": {
        "BACKEND": ENV("CARACOL_TASKS", default="django_tasks_db.DatabaseBackend"),
    }
}

WHITENOISE_ROOT = WEB_DIST if WEB_DIST.is_dir() else None
WHITENOISE_INDEX_FILE = True
STATIC_URL = "/static/"


def _immutable(path: str, url: str) -> bool:
    """Vite puts a hash into the name of everything under assets/."""
    return url.startswith("/assets/")


WHITENOISE_IMMUTABLE_FILE_TEST = _immutable

# Lists come in pages.
NINJA_PAGINATION_PER_PAGE = 60
NINJA_PAGINATION_MAX_LIMIT = 200
UPLOAD_LIMIT = 300 * 1024 * 1024
DATA_UPLOAD_MAX_MEMORY_SIZE = 4 * 1024 * 1024
FILE_UPLOAD_MAX_MEMORY_SIZE = 8 * 1024 * 1024
PICTURE_CACHE = ENV.int("CARACOL_CACHE_MB", default=1024) << 20
PHOTO_CACHE = ENV.int("CARACOL_PHOTO_MB", default=1536) << 20
LOOK_CACHE_FILES = ENV.int("CARACOL_LOOK_FILES", default=4000)
"""So many small pictures of pieces stay on disk; the least recently looked at go."""

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": ENV("CARACOL_LOG", default="WARNING")},
}
