"""Suppliers, their offers, what is wanted and what was ordered."""

from typing import ClassVar

from django.db import models

from dusky_heron.record.models import Versioned


class Supplier(Versioned):
    """Who sells parts: postage, minimum order, how many days it takes; the counter round the corner takes none."""

    BINDS: ClassVar[str] = "workshop_id"

    workshop = models.ForeignKey("workshops.Workshop", on_delete=models.PROTECT, related_name="suppliers")
    name = models.CharField(max_length=200)
    postage = models.DecimalField(max_digits=9, decimal_places=2, default=0)
    minimum_order = models.DecimalField(max_digits=9, decimal_places=2, default=0)
    days = models.PositiveSmallIntegerField(default=0)
    counter = models.BooleanField(default=False)
    service_code = models.CharField(max_length=60, blank=True)

    class Meta:
        ordering = ["name", "id"]

    def __str__(self) -> str:
        return self.name


class Offer(Versioned):
    """A supplier's price for a part: (from how many, price each), ascending; `at` is when it was typed or asked."""

    supplier = models.ForeignKey(Supplier, on_delete=models.CASCADE, related_name="offers")
    part = models.ForeignKey("stock.Part", on_delete=models.CASCADE, related_name="offers")
    code = models.CharField(max_length=60, blank=True)
    breaks = models.JSONField()
    pack = models.PositiveIntegerField(default=1)
    available = models.PositiveIntegerField(null=True, blank=True)
    at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["supplier", "part"], name="one_offer_a_part")]

    def __str__(self) -> str:
        return f"{self.part_id} from {self.supplier_id}"


class Want(Versioned):
    """A line of the shopping list: a part or what may stand in for it, or what meets a specification; for a place or the drawer."""

    BINDS: ClassVar[str] = "workshop_id"

    workshop = models.ForeignKey("workshops.Workshop", on_delete=models.PROTECT, related_name="wants")
    part = models.ForeignKey("stock.Part", on_delete=models.PROTECT, null=True, related_name="+")
    specification = models.JSONField(default=list)
    quantity = models.PositiveIntegerField()
    position = models.ForeignKey("jobs.Position", on_delete=models.PROTECT, null=True, blank=True, related_name="wants")
    alternates = models.JSONField(default=list)
    needed_by = models.DateField(null=True, blank=True)
    dropped = models.BooleanField(default=False)
    at = models.DateTimeField(auto_now_add=True)
    by_name = models.CharField(max_length=200)

    class Meta:
        ordering = ["at", "id"]

    def __str__(self) -> str:
        return f"{self.quantity} of {self.part_id or 'a specification'}"

    @property
    def says(self) -> str:
        """What is wanted, in a line."""
        return self.part.marking if self.part else "; ".join(self.specification[:3])


class Ordered(Versioned):
    """Units of a part ordered from a supplier, for a want or, beyond what is wanted, for the drawer."""

    BINDS: ClassVar[str] = "workshop_id"

    workshop = models.ForeignKey("workshops.Workshop", on_delete=models.PROTECT, related_name="+")
    want = models.ForeignKey(Want, on_delete=models.PROTECT, null=True, blank=True, related_name="orders")
    part = models.ForeignKey("stock.Part", on_delete=models.PROTECT, related_name="+")
    supplier = models.ForeignKey(Supplier, on_delete=models.PROTECT, related_name="+")
    quantity = models.PositiveIntegerField()
    each = models.DecimalField(max_digits=9, decimal_places=2)
    due = models.DateField()
    received = models.PositiveIntegerField(default=0)
    closed = models.BooleanField(default=False)
    at = models.DateTimeField(auto_now_add=True)
    by_name = models.CharField(max_length=200)

    class Meta:
        ordering = ["at", "id"]

    def __str__(self) -> str:
        return f"{self.quantity} of {self.part_id} from {self.supplier_id}"
