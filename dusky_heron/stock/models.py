"""The drawer."""

from enum import StrEnum

from django.db import models

from dusky_heron.core.model import LeadForm, Origin, PartKind
from dusky_heron.record.models import Versioned

MOST_OF_ONE = 1_000_000  # of one part in a drawer: more is a slip of a finger, and what goes in has to come out again

SIEVED = (
    *("sections", "classes", "ac_low_v", "ac_high_v", "dc_v", "upper_c", "origin", "provisional"),
    *("length_mm", "width_mm", "height_mm", "pitch_mm", "lead_form"),
)


class Part(Versioned):
    """A stock item: what is printed on it, and its size; the traits of its marking as columns, for searching and sieving."""

    workshop = models.ForeignKey("workshops.Workshop", on_delete=models.PROTECT, related_name="parts")
    marking = models.CharField(max_length=300)
    kind = models.CharField(max_length=20, choices=[(k.value, k.value) for k in PartKind])
    origin = models.CharField(max_length=20, choices=[(o.value, o.value) for o in Origin], default=Origin.NEW)
    quantity = models.PositiveIntegerField(default=0)
    place = models.CharField(max_length=60, blank=True)
    lot = models.CharField(max_length=60, blank=True)
    date_code = models.CharField(max_length=20, blank=True)
    lead_form = models.CharField(max_length=20, choices=[(f.value, f.value) for f in LeadForm], blank=True)
    measured = models.CharField(max_length=200, blank=True)
    length_mm = models.FloatField(null=True, blank=True)
    width_mm = models.FloatField(null=True, blank=True)
    height_mm = models.FloatField(null=True, blank=True)
    pitch_mm = models.FloatField(null=True, blank=True)
    humidity_grade = models.BooleanField(default=False)
    price = models.DecimalField(max_digits=9, decimal_places=2, null=True, blank=True)
    ripple_a = models.FloatField(null=True, blank=True)
    dvdt_v_s = models.FloatField(null=True, blank=True)
    peak_a = models.FloatField(null=True, blank=True)
    esr_ohm = models.FloatField(null=True, blank=True)
    capacitance_f = models.FloatField()
    sections = models.PositiveSmallIntegerField(default=1)
    ac_low_v = models.FloatField(default=0)
    ac_high_v = models.FloatField(default=0)
    dc_v = models.FloatField(default=0)
    upper_c = models.FloatField(default=-273)
    classes = models.CharField(max_length=60, blank=True)
    provisional = models.BooleanField(default=False)

    class Meta:
        indexes = [
            models.Index(fields=["workshop", "capacitance_f"]),
            models.Index(fields=["workshop", "marking"]),
            models.Index(fields=["workshop", "kind"]),
            models.Index(fields=["workshop", "kind", "capacitance_f"], include=SIEVED, name="stock_part_sieved"),
        ]

    def __str__(self) -> str:
        return self.marking


class Why(StrEnum):
    """Why the quantity of a part changed."""

    ADDED = "added"
    COUNTED = "counted"
    LISTED = "stock list"
    BOUGHT = "bought"
    TO_JOB = "to a job"
    FROM_JOB = "back from a job"
    OUT = "out"


class Movement(models.Model):
    """A change of a part's quantity: the sum of them is the quantity there is."""

    part = models.ForeignKey(Part, on_delete=models.CASCADE, related_name="movements")
    change = models.IntegerField()
    why = models.CharField(max_length=20, choices=[(w.value, w.value) for w in Why])
    says = models.CharField(max_length=200, blank=True)
    at = models.DateTimeField(auto_now_add=True)
    by_name = models.CharField(max_length=200)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return f"{self.change:+} {self.why}"


class PartImport(models.Model):
    """A stock list that was taken in: what it added, and what the parts it changed were before, to undo it whole."""

    workshop = models.ForeignKey("workshops.Workshop", on_delete=models.PROTECT, related_name="part_imports")
    name = models.CharField(max_length=200)
    added = models.JSONField()
    before = models.JSONField()
    undone = models.BooleanField(default=False)
    at = models.DateTimeField(auto_now_add=True)
    by_name = models.CharField(max_length=200)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return self.name
