"""Equipment on the bench and the places in it that hold a capacitor."""

from typing import ClassVar

from django.db import models

from dusky_heron.core.model import Arrangement, Basis, LeadForm, PartKind, Reach, Role, Topology
from dusky_heron.record.models import Entered, Versioned


class Job(Versioned):
    """One piece of equipment, as taken in."""

    BINDS: ClassVar[str] = "id"

    workshop = models.ForeignKey("workshops.Workshop", on_delete=models.PROTECT, related_name="jobs")
    number = models.PositiveIntegerField()
    title = models.CharField(max_length=200)
    customer = models.CharField(max_length=200, blank=True)
    maker = models.CharField(max_length=200, blank=True)
    model = models.CharField(max_length=200, blank=True)
    serial = models.CharField(max_length=200, blank=True)
    supply_v = models.FloatField()
    supply_hz = models.FloatField()
    protection_class = models.CharField(max_length=10, blank=True)
    connection = models.CharField(max_length=10, blank=True)
    standard = models.CharField(max_length=60, blank=True)
    two_core = models.BooleanField(default=False)
    live_chassis = models.BooleanField(default=False)
    symptom = models.TextField(blank=True)
    promised_by = models.DateField(null=True, blank=True)
    opened_at = models.DateTimeField(auto_now_add=True)
    returned_at = models.DateTimeField(null=True, blank=True)
    from_file = models.BooleanField(default=False)  # of another server: nobody here signed what came with it
    accepted = models.BooleanField(default=False)  # by a lead here, with the signatures that came with it

    class Meta:
        indexes = [models.Index(fields=["workshop", "returned_at"])]
        constraints = [models.UniqueConstraint(fields=["workshop", "number"], name="one_job_a_number")]

    def __str__(self) -> str:
        return f"{self.number} {self.title}"


class Position(Versioned):
    """One place in a circuit that holds a capacitor, with what is printed on the part found there."""

    BINDS: ClassVar[str] = "job_id"

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="positions")
    name = models.CharField(max_length=40)
    role = models.CharField(max_length=20, choices=[(r.value, r.value) for r in Role])
    marking = models.CharField(max_length=300)
    length_mm = models.FloatField(null=True, blank=True)
    width_mm = models.FloatField(null=True, blank=True)
    height_mm = models.FloatField(null=True, blank=True)
    pitch_mm = models.FloatField(null=True, blank=True)
    other_pitches = models.CharField(max_length=40, blank=True)
    lead_form = models.CharField(max_length=20, choices=[(f.value, f.value) for f in LeadForm], blank=True)
    hot_neighbour = models.BooleanField(default=False)
    wet = models.BooleanField(default=False)
    basis = models.CharField(max_length=30, blank=True, choices=[(b.value, b.value) for b in Basis])
    circuit_v = models.FloatField(null=True, blank=True)
    circuit_confirmed = models.BooleanField(default=False)
    arrangement = models.CharField(max_length=20, choices=[(a.value, a.value) for a in Arrangement], default=Arrangement.SINGLE)
    count = models.PositiveSmallIntegerField(default=1)
    balancing_ohm = models.FloatField(null=True, blank=True)
    bleeder_each_ohm = models.FloatField(null=True, blank=True)
    bleeder_count = models.PositiveSmallIntegerField(default=1)
    bleeder_working_v = models.FloatField(null=True, blank=True)
    bleeder_measured_ohm = models.FloatField(null=True, blank=True)
    bleeder_open = models.BooleanField(default=False)
    topology = models.CharField(max_length=20, blank=True, choices=[(t.value, t.value) for t in Topology])
    rail_v = models.FloatField(null=True, blank=True)
    loads = models.TextField(blank=True)
    series_ohm = models.FloatField(null=True, blank=True)
    zener_w = models.FloatField(null=True, blank=True)
    life_h = models.FloatField(null=True, blank=True)
    life_at_c = models.FloatField(null=True, blank=True)
    runs_at_c = models.FloatField(null=True, blank=True)
    hours_a_day = models.FloatField(null=True, blank=True)
    made_as = models.CharField(max_length=20, blank=True, choices=[(k.value, k.value) for k in PartKind])
    reaches = models.CharField(max_length=20, blank=True, choices=[(r.value, r.value) for r in Reach])
    ripple_a = models.FloatField(null=True, blank=True)
    esr_ohm = models.FloatField(null=True, blank=True)
    dvdt_v_s = models.FloatField(null=True, blank=True)
    peak_a = models.FloatField(null=True, blank=True)
    added_at = models.DateTimeField(auto_now_add=True)
    sequence = models.PositiveIntegerField(default=0)  # of the entry that added it

    class Meta:
        ordering = ["sequence", "name"]
        constraints = [models.UniqueConstraint(fields=["job", "name"], name="one_position_a_name")]

    def __str__(self) -> str:
        return self.name


class HandOver(Entered):
    """A word for whoever goes on with a job; the last of them stands."""

    KINDS: ClassVar[frozenset[str]] = frozenset({"handed over"})
    JOB: ClassVar[str] = "job"

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="handed_over")
    says = models.CharField(max_length=500)

    def __str__(self) -> str:
        return self.says
