"""Work that was asked for, how far it is, and what came of it."""

from enum import StrEnum

from django.db import models

from dusky_heron.record.naming import new_id


class State(StrEnum):
    """Where long work stands."""

    WAITING = "waiting"
    RUNNING = "running"
    DONE = "done"
    REFUSED = "refused"
    STOPPED = "stopped"


class Work(models.Model):
    """One piece of long work; what it was given goes when it ends, its answer or the sentence of its refusal stays."""

    id = models.UUIDField(primary_key=True, default=new_id, editable=False)
    workshop = models.ForeignKey("workshops.Workshop", on_delete=models.PROTECT, related_name="+")
    by = models.ForeignKey("workshops.Member", on_delete=models.PROTECT, related_name="+")
    kind = models.CharField(max_length=40)
    name = models.CharField(max_length=200, blank=True)
    given = models.BinaryField(default=b"")
    state = models.CharField(max_length=10, choices=[(s.value, s.value) for s in State], default=State.WAITING)
    done = models.PositiveIntegerField(default=0)
    total = models.PositiveIntegerField(default=0)
    stop_asked = models.BooleanField(default=False)
    answer = models.JSONField(null=True)
    field = models.CharField(max_length=60, blank=True)
    sentence = models.CharField(max_length=500, blank=True)
    at = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return f"{self.kind}: {self.state}"
