"""A workshop and its members."""

import uuid
from decimal import Decimal
from typing import ClassVar

from django.contrib.auth.base_user import AbstractBaseUser, BaseUserManager
from django.db import models

from dusky_heron.record.actor import Actor, MemberRole
from dusky_heron.record.models import Versioned


class Workshop(models.Model):
    """Everything belongs to one."""

    BINDS: ClassVar[str] = "id"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=200)
    supply_v = models.FloatField(default=230.0)
    supply_hz = models.FloatField(default=50.0)

    def __str__(self) -> str:
        return self.name


class Member(AbstractBaseUser, Versioned):
    """A person who signs in; their name stands in every entry they make."""

    BINDS: ClassVar[str] = "workshop_id"
    LOOSE: ClassVar[frozenset[str]] = frozenset({"password", "last_login"})  # what a record does not hold

    workshop = models.ForeignKey(Workshop, on_delete=models.PROTECT, related_name="members")
    username = models.CharField(max_length=60, unique=True)
    name = models.CharField(max_length=200)
    role = models.CharField(max_length=20, choices=[(r.value, r.value) for r in MemberRole])
    is_active = models.BooleanField(default=True)

    USERNAME_FIELD = "username"
    REQUIRED_FIELDS: ClassVar[list[str]] = ["name"]
    objects = BaseUserManager()

    def __str__(self) -> str:
        return self.name

    @property
    def actor(self) -> Actor:
        """The member as plain data, for actions and queries."""
        return Actor(self.id, self.name, self.workshop_id, MemberRole(self.role))


class ChangedLimit(Versioned):
    """What a workshop wants instead of a limit of discharge or of a verdict, and why; no reason: as it was again."""

    BINDS: ClassVar[str] = "workshop_id"

    workshop = models.ForeignKey(Workshop, on_delete=models.PROTECT, related_name="changed_limits")
    limit_id = models.CharField(max_length=60)
    value = models.FloatField(null=True, blank=True)
    after_s = models.FloatField(null=True, blank=True)
    reason = models.CharField(max_length=200, blank=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["workshop", "limit_id"], name="one_change_a_limit")]

    def __str__(self) -> str:
        return self.limit_id


class Terms(Versioned):
    """What a workshop charges, how long it stands for its work, and what it asks of whoever signs in."""

    BINDS: ClassVar[str] = "workshop_id"

    workshop = models.OneToOneField(Workshop, on_delete=models.PROTECT, related_name="terms")
    hourly_rate = models.DecimalField(max_digits=9, decimal_places=2, default=Decimal("48.00"))
    tax_percent = models.DecimalField(max_digits=5, decimal_places=2, default=Decimal("20.00"))
    currency = models.CharField(max_length=3, default="GBP")
    warranty_months = models.PositiveSmallIntegerField(default=12)
    address = models.CharField(max_length=300, blank=True)
    decimal_sign = models.CharField(max_length=1, blank=True)
    second_factor = models.BooleanField(default=False)

    def __str__(self) -> str:
        return f"terms of {self.workshop_id}"


class CalendarAddress(Versioned):
    """Under which address the workshop's due dates are read from outside: the secret in it follows from `number`.

    Nothing secret is kept; each new number makes another address.
    """

    BINDS: ClassVar[str] = "workshop_id"

    workshop = models.OneToOneField(Workshop, on_delete=models.PROTECT, related_name="calendar_address")
    number = models.PositiveIntegerField(default=0)
    ended = models.BooleanField(default=False)

    def __str__(self) -> str:
        return f"calendar of {self.workshop_id}"


class ChosenSchool(Versioned):
    """What a workshop chose where practitioners disagree, and why."""

    BINDS: ClassVar[str] = "workshop_id"

    workshop = models.ForeignKey(Workshop, on_delete=models.PROTECT, related_name="chosen_schools")
    school_id = models.CharField(max_length=40)
    option = models.CharField(max_length=40, blank=True)
    reason = models.CharField(max_length=200, blank=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["workshop", "school_id"], name="one_choice_a_school")]

    def __str__(self) -> str:
        return f"{self.school_id}: {self.option}"
