"""Settings, all from the environment (12-factor); a checkout keeps its own in .env."""

from pathlib import Path

import environ
from csp.constants import NONE, SELF

from dusky_heron.settings.logs import LOGGING_CONFIGURED

ROOT = Path(__file__).resolve().parents[2]
env = environ.Env()
environ.Env.read_env(ROOT / ".env")

SECRET_KEY = env.str("SECRET_KEY")
DEBUG = False
ALLOWED_HOSTS = env.list("ALLOWED_HOSTS", default=["127.0.0.1", "localhost", "[::1]"])
CSRF_TRUSTED_ORIGINS = env.list("CSRF_TRUSTED_ORIGINS", default=[])
BEHIND_TLS = env.bool("BEHIND_TLS", default=False)

DATABASES = {
    "default": {
        **env.db("DATABASE_URL"),
        "CONN_MAX_AGE": 60,
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {"connect_timeout": 5},
    }
}
# The role the application runs as; migrations, run by the owner, grant it what it may do.
DATABASE_APP_ROLE = env.str("DATABASE_APP_ROLE", default="dusky_app")

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "django.contrib.postgres",
    "axes",
    "django_otp",
    "django_otp.plugins.otp_totp",
    "django_otp.plugins.otp_static",
    "csp",
    "ninja",
    "procrastinate.contrib.django",
    "dusky_heron.settings",
    "dusky_heron.record",
    "dusky_heron.workshops",
    "dusky_heron.longwork",
    "dusky_heron.instruments",
    "dusky_heron.stock",
    "dusky_heron.jobs",
    "dusky_heron.discharge",
    "dusky_heron.asfound",
    "dusky_heron.assessment",
    "dusky_heron.replacement",
    "dusky_heron.buying",
    "dusky_heron.circuits",
    "dusky_heron.bringup",
    "dusky_heron.fitting",
    "dusky_heron.handback",
    "dusky_heron.transfer",
    "dusky_heron.memory",
    "dusky_heron.proposals",
    "dusky_heron.demo",
]
MIDDLEWARE = [
    "dusky_heron.settings.logs.RequestLog",
    "dusky_heron.api.answers.ApiAnswers",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "dusky_heron.workshops.requests.DecimalSign",
]
ROOT_URLCONF = "dusky_heron.settings.urls"
WSGI_APPLICATION = "dusky_heron.settings.wsgi.application"
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
TEMPLATES = [{"BACKEND": "django.template.backends.django.DjangoTemplates", "APP_DIRS": True}]  # of the report; the page has none

AUTH_USER_MODEL = "workshops.Member"
AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "dusky_heron.workshops.signing_in.Members"]
PASSWORD_HASHERS = ["dusky_heron.workshops.hashing.Argon2Behind"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
    {"NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator"},
]
OTP_TOTP_ISSUER = "Dusky Heron"
AXES_FAILURE_LIMIT = 5
AXES_COOLOFF_TIME = 0.25  # hours
AXES_CLIENT_IP_CALLABLE = "dusky_heron.workshops.signing_in.address_of"
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_ON_SUCCESS = True
AXES_ENABLE_ADMIN = False
AXES_VERBOSE = False

SESSION_COOKIE_NAME = "dusky_session"
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_AGE = 12 * 3600
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = BEHIND_TLS
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https") if BEHIND_TLS else None
SECURE_HSTS_SECONDS = 31_536_000 if BEHIND_TLS else 0
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
DATA_UPLOAD_MAX_MEMORY_SIZE = 1_000_000
SILENCED_SYSTEM_CHECKS = ["axes.W002"]  # the axes middleware only renders lockout pages; sign-in answers 429 itself

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [NONE],
        "script-src": [SELF],
        "style-src": [SELF],
        "connect-src": [SELF],
        "img-src": [SELF, "data:", "blob:"],
        "font-src": [SELF],
        "worker-src": [SELF],
        "form-action": [SELF],
        "base-uri": [NONE],
        "frame-ancestors": [NONE],
    }
}

PRICE_SERVICE_URL = env.str("PRICE_SERVICE_URL", default="")  # empty: prices are typed

LANGUAGE_CODE = "en"
TIME_ZONE = env.str("TIME_ZONE", default="Europe/London")
USE_TZ = True
USE_I18N = False

PAGE = ROOT / "frontend" / "dist"
STATIC_URL = "/static/"
STATIC_ROOT = env.path("STATIC_ROOT", default=str(ROOT / "staticfiles"))
STATICFILES_DIRS = [PAGE] if PAGE.is_dir() else []
STORAGES = {
    "default": {"BACKEND": env.str("PHOTO_STORAGE", default="django.core.files.storage.FileSystemStorage")},
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedStaticFilesStorage"},
}
TEST_RUNNER = "tests.databases.Runner"
MEDIA_ROOT = env.path("MEDIA_ROOT", default=str(ROOT / "media"))  # photos; no address leads there but the API's own
FILE_UPLOAD_PERMISSIONS = 0o600


def WHITENOISE_IMMUTABLE_FILE_TEST(path: str, url: str) -> bool:  # noqa: N802, ARG001
    """Every name tells its content, but for the manifest that names the others."""
    return url.startswith(("/static/assets/", "/static/worked/")) and not url.endswith("/manifest.json")


WHITENOISE_SKIP_COMPRESS_EXTENSIONS = (
    "woff2",
    "zip",
    "gz",
    "whl",
    "wasm",
    "mjs",
)  # the last two: `device.pack` has done it, in a second


LOGGING_CONFIG = None if LOGGING_CONFIGURED else "logging.config.dictConfig"
