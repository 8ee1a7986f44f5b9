"""What the application's own database role may do: all it needs, but entries it may only read and add."""

from typing import Any

from django.conf import settings
from django.db import connections
from psycopg import sql

APPEND_ONLY = ("record_entry",)


def grant_application_role(using: str = "default", **_: Any) -> None:
    """Give the role its rights on every table there is; run by the owner, who may be the only role of a test."""
    connection = connections[using]
    with connection.cursor() as cursor:
        cursor.execute("SELECT 1 FROM pg_roles WHERE rolname = %s AND rolname <> current_user", [settings.DATABASE_APP_ROLE])
        if cursor.fetchone() is None:
            return
        role = sql.Identifier(settings.DATABASE_APP_ROLE)
        statements = [
            sql.SQL("GRANT USAGE ON SCHEMA public TO {}").format(role),
            sql.SQL("GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO {}").format(role),
            sql.SQL("GRANT USAGE, SELECT ON ALL SEQUENCES IN SCHEMA public TO {}").format(role),
            *(
                sql.SQL("REVOKE UPDATE, DELETE, TRUNCATE ON {} FROM {}").format(sql.Identifier(table), role)
                for table in APPEND_ONLY
            ),
            sql.SQL("REVOKE UPDATE, DELETE, TRUNCATE ON record_chain FROM {}").format(role),
            sql.SQL("GRANT UPDATE (length, head) ON record_chain TO {}").format(role),  # what it is of is never changed
        ]
        for statement in statements:
            cursor.execute(statement.as_string(cursor.cursor))
