"""What the worker does of itself, each night."""

import datetime

from axes.models import AccessAttempt, AccessFailureLog, AccessLog
from django.contrib.sessions.models import Session
from django.utils import timezone
from procrastinate.contrib.django import app

from dusky_heron.longwork.models import State, Work
from dusky_heron.record.forgetting import forget_writes

KEPT = datetime.timedelta(days=30)  # attempts to sign in, and work that has ended
ENDED = (State.DONE, State.REFUSED, State.STOPPED)


@app.periodic(cron="17 3 * * *")
@app.task(queueing_lock="tidy")
def tidy(timestamp: int) -> None:  # noqa: ARG001 - the night it is for
    """Take away what has no use any more; nothing of a record."""
    now = timezone.now()
    forget_writes(now)
    Session.objects.filter(expire_date__lt=now).delete()
    for model in (AccessAttempt, AccessFailureLog, AccessLog):
        model.objects.filter(attempt_time__lt=now - KEPT).delete()
    Work.objects.filter(at__lt=now - KEPT, state__in=ENDED).delete()
