"""Which part was chosen for a position, and which demands of it were overridden."""

from typing import Any, ClassVar

from django.db import models

from dusky_heron.core.selection.ways import Way
from dusky_heron.record.models import Entered

SENTENCES = {"type": "array", "maxItems": 40, "items": {"type": "string", "maxLength": 500}}
WORDS = {"type": "string", "maxLength": 300}
PARTS = {
    "type": "array",
    "maxItems": 8,
    "items": {
        "type": "object",
        "properties": {"part_id": {"type": "null"}, **dict.fromkeys(("marking", "place", "lot", "date_code", "price"), WORDS)},
        "required": ["date_code", "lot", "marking", "part_id", "place", "price"],
        "additionalProperties": False,
    },
}


class Choice(Entered):
    """How a place is to be filled; the newest counts. `parts` are what they were then, each a dictionary, see `ChosenPart`.

    `marking` says in a line what stands in the place afterwards; `resistor` one fitted beside the parts; `reason` why it is left
    empty or as it was; `signed` what was signed for; `specification` what is to be bought.
    """

    KINDS: ClassVar[frozenset[str]] = frozenset({"replacement chosen"})
    SHAPES: ClassVar[dict[str, Any]] = {
        "parts": PARTS,
        "signed": SENTENCES,
        "specification": SENTENCES,
    }  # JSON Schema of a job's file

    position = models.ForeignKey("jobs.Position", on_delete=models.PROTECT, related_name="choices")
    way = models.CharField(max_length=20, choices=[(w.value, w.value) for w in Way], default=Way.SINGLE)
    marking = models.CharField(max_length=1300)
    parts = models.JSONField(default=list, blank=True)
    resistor = models.CharField(max_length=200, blank=True)
    reason = models.CharField(max_length=500, blank=True)
    signed = models.JSONField(default=list, blank=True)
    specification = models.JSONField(default=list, blank=True)
    out_at = models.DateTimeField(null=True, blank=True)

    def __str__(self) -> str:
        return self.marking


class Override(Entered):
    """A demand overridden for a position, with who did and why; taken back by another row with `stands` false."""

    KINDS: ClassVar[frozenset[str]] = frozenset({"demand overridden", "demand asked for again"})

    position = models.ForeignKey("jobs.Position", on_delete=models.PROTECT, related_name="overrides")
    rule_id = models.CharField(max_length=60)
    stands = models.BooleanField(default=True)
    reason = models.CharField(max_length=500)

    def __str__(self) -> str:
        return f"{self.rule_id}: {self.reason}"
