"""What a server for others must not run with; `manage.py check --deploy --database default` says it, and scripts/serve refuses."""

from collections.abc import Iterator, Sequence
from typing import Any

from django.conf import settings
from django.core.checks import CheckMessage, Error, Tags, register
from django.db import DatabaseError, connections

from dusky_heron.record.grants import APPEND_ONLY

LOOPBACK = frozenset({"127.0.0.1", "localhost", "[::1]"})
SHORTEST_SECRET = 50


@register(Tags.security, deploy=True)
def settings_for_others(app_configs: Any, **_: Any) -> list[CheckMessage]:  # noqa: ARG001
    """Settings under which secrets, sessions or addresses could be taken over."""
    return list(_settings())


def _settings() -> Iterator[CheckMessage]:
    if settings.DEBUG:
        yield Error("DEBUG shows the inside of the server to everybody.", hint="Leave it off.", id="dusky.E001")
    if len(settings.SECRET_KEY) < SHORTEST_SECRET:
        hint = f"At least {SHORTEST_SECRET} random letters and figures, of this server alone."
        yield Error("SECRET_KEY can be guessed.", hint=hint, id="dusky.E002")
    if any(host == "*" or host.startswith(".") for host in settings.ALLOWED_HOSTS):
        yield Error("ALLOWED_HOSTS takes any name.", hint="Name the hosts people type, and no others.", id="dusky.E003")
    if not settings.BEHIND_TLS and set(settings.ALLOWED_HOSTS) - LOOPBACK:
        hint = "Put nginx with TLS before it, and set BEHIND_TLS=true; phones keep nothing offline without it."
        yield Error("Passwords and sessions would cross the network in clear.", hint=hint, id="dusky.E004")
    if any(not origin.startswith("https://") for origin in settings.CSRF_TRUSTED_ORIGINS):
        yield Error("CSRF_TRUSTED_ORIGINS trusts an address without TLS.", hint="https:// only.", id="dusky.E005")


@register(Tags.database, deploy=True)
def rights_of_the_role(app_configs: Any, databases: Sequence[str] | None = None, **_: Any) -> list[CheckMessage]:  # noqa: ARG001
    """The role the server runs as may add to a record, and nothing else."""
    return [found for alias in databases or () for found in _rights(alias)]


def _rights(alias: str) -> Iterator[CheckMessage]:
    try:
        with connections[alias].cursor() as cursor:
            cursor.execute("SELECT rolsuper OR rolcreatedb FROM pg_roles WHERE rolname = current_user")
            mighty = bool(cursor.fetchone()[0])
            cursor.execute(
                "SELECT bool_or(has_table_privilege(to_regclass(name), may)) FROM unnest(%s::text[]) AS name, "
                "unnest(ARRAY['UPDATE', 'DELETE', 'TRUNCATE']) AS may",
                [list(APPEND_ONLY)],
            )
            alters = bool(cursor.fetchone()[0])
    except DatabaseError as error:
        yield Error("The database does not answer.", hint=str(error).splitlines()[0], id="dusky.E007")
        return
    if mighty or alters:
        hint = "DATABASE_URL is the application's role; DATABASE_OWNER_URL the one that migrates."
        yield Error("The server's role may alter what is on record.", hint=hint, id="dusky.E006")
