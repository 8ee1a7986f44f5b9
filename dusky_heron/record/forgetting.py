"""Forgetting what nobody asks for again: answers of writes after a week, their keys after a year. What was entered stays."""

import datetime

from django.db.models import QuerySet

from dusky_heron.record.models import Write

ANSWERS = datetime.timedelta(days=7)  # a phone that sends again within it is answered as the first time
KEYS = datetime.timedelta(days=366)  # until then a write is not done twice: a drawer where phones lie is cleared once a year
AT_ONCE = 2000  # rows in one statement: a fraction of a second of locks


def forget_writes(now: datetime.datetime) -> int:
    """Take away what is old enough; how many rows were changed. A statement or two for each two thousand."""
    answered = Write.objects.filter(at__lt=now - ANSWERS).exclude(answer="")
    keys = Write.objects.filter(at__lt=now - KEYS)
    changed = 0
    while some := _some(keys):
        changed += Write.objects.filter(id__in=some).delete()[0]
    while some := _some(answered):
        changed += Write.objects.filter(id__in=some).update(answer="")
    return changed


def _some(rows: QuerySet[Write]) -> list[int]:
    return list(rows.order_by("id").values_list("id", flat=True)[:AT_ONCE])
