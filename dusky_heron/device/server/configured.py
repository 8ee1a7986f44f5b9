"""Settings of the server on a device: a database in memory, one member, and nothing that leaves it."""

SECRET_KEY = "of one page, for nothing that lasts"  # noqa: S105 - every page has it; nothing signed with it is ever sent
ALLOWED_HOSTS = ["device"]
DATABASES = {"default": {"ENGINE": "django.db.backends.sqlite3", "NAME": ":memory:"}}
APPS = (
    "record",
    "workshops",
    "longwork",
    "instruments",
    "stock",
    "jobs",
    "discharge",
    "asfound",
    "assessment",
    "replacement",
    "buying",
    "circuits",
    "bringup",
    "fitting",
    "handback",
    "transfer",
    "memory",
    "proposals",
)
INSTALLED_APPS = ["django.contrib.auth", "django.contrib.contenttypes", *(f"dusky_heron.{name}" for name in APPS)]
MIDDLEWARE = [
    "dusky_heron.device.server.asked.OfMember",
    "dusky_heron.api.answers.ApiAnswers",
    "dusky_heron.workshops.requests.DecimalSign",
]
ROOT_URLCONF = "dusky_heron.device.server.asked"
AUTH_USER_MODEL = "workshops.Member"
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
USE_TZ = True
USE_I18N = False
TIME_ZONE = "UTC"  # `asked.stand` takes the workshop's own
DATABASE_APP_ROLE = ""
PRICE_SERVICE_URL = ""
