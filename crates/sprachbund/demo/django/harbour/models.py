import uuid
from decimal import Decimal

from django.core.validators import MinValueValidator
from django.db import models
from django.db.models.functions import Now
from django.utils import timezone

CODE_LENGTH = 5


class CallStatus(models.TextChoices):
    EXPECTED = "expected", "Expected"
    MOORED = "moored", "Moored"
    DEPARTED = "departed", "Departed"
    CANCELLED = "cancelled", "Cancelled"


class Recorded(models.Model):
    """What every record of the register keeps about itself."""

    recorded_at = models.DateTimeField(auto_now_add=True, db_default=Now())
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        abstract = True


class Harbour(models.Model):
    code = models.CharField(max_length=CODE_LENGTH, primary_key=True)
    name = models.CharField(max_length=80, unique=True)
    time_zone = models.CharField(max_length=40, default="UTC", db_default="UTC")

    class Meta:
        db_table = "harbours"
        ordering = ["name"]

    def __str__(self):
        return self.name


class Quay(models.Model):
    harbour = models.ForeignKey(Harbour, on_delete=models.CASCADE, related_name="quays")
    name = models.CharField(max_length=40)
    depth = models.DecimalField(max_digits=5, decimal_places=2, null=True)

    class Meta:
        db_table = "quays"
        constraints = [models.UniqueConstraint(fields=["harbour", "name"], name="quay_name_in_harbour")]

    def __str__(self):
        return self.name


class Berth(models.Model):
    quay = models.ForeignKey(Quay, on_delete=models.PROTECT, related_name="berths")
    beside = models.ForeignKey("self", on_delete=models.SET_NULL, null=True, blank=True, related_name="neighbours")
    number = models.PositiveSmallIntegerField()
    length = models.DecimalField(max_digits=6, decimal_places=2, validators=[MinValueValidator(Decimal("1"))])
    max_draught = models.DecimalField(max_digits=4, decimal_places=2, blank=True)
    shore_power = models.BooleanField(default=False, db_default=False)

    class Meta:
        db_table = "berths"
        ordering = ["quay", "number"]
        unique_together = [["quay", "number"]]


class Owner(Recorded):
    name = models.CharField(max_length=120)
    email = models.EmailField(unique=True)
    country = models.CharField(max_length=2, default="unknown")

    class Meta:
        db_table = "owners"


class Vessel(Recorded):
    imo_number = models.CharField(max_length=7, unique=True)
    name = models.CharField()
    flag = models.CharField(max_length=2, db_index=True)
    length = models.DecimalField(max_digits=6, decimal_places=2)
    draught = models.DecimalField(max_digits=4, decimal_places=2)
    owners = models.ManyToManyField(Owner, through="Ownership", related_name="vessels")

    class Meta:
        db_table = "vessels"
        indexes = [models.Index(fields=["name", "-length"], name="vessel_by_name")]
        constraints = [
            models.CheckConstraint(condition=models.Q(draught__gt=0) & models.Q(length__gt=0), name="vessel_has_size"),
        ]

    def __str__(self):
        return self.name


class Ownership(models.Model):
    vessel = models.ForeignKey(Vessel, on_delete=models.CASCADE, related_name="shares")
    owner = models.ForeignKey(Owner, on_delete=models.RESTRICT, related_name="shares")
    share = models.DecimalField(max_digits=5, decimal_places=4, default=Decimal("1"))

    class Meta:
        db_table = "ownerships"
        unique_together = [["vessel", "owner"]]


class Certificate(models.Model):
    vessel = models.OneToOneField(Vessel, on_delete=models.CASCADE, related_name="certificate")
    number = models.UUIDField(default=uuid.uuid4, unique=True)
    issued_on = models.DateField()
    expires_on = models.DateField(null=True)

    class Meta:
        db_table = "certificates"


class Pilot(models.Model):
    name = models.CharField(max_length=80)
    radio_name = models.CharField(max_length=20, null=True, blank=True, unique=True)
    grade = models.SmallIntegerField(default=40000)

    class Meta:
        db_table = "pilots"


class PilotLicence(models.Model):
    pilot = models.ForeignKey(Pilot, on_delete=models.CASCADE, related_name="licences")
    harbour = models.ForeignKey(Harbour, on_delete=models.CASCADE, related_name="licences", db_index=False)
    valid_until = models.DateField(blank=True)

    class Meta:
        db_table = "pilot_licences"


class TideWindow(models.Model):
    harbour = models.ForeignKey(Harbour, on_delete=models.CASCADE, related_name="tide_windows")
    opens_at = models.DateTimeField()
    closes_at = models.DateTimeField()

    class Meta:
        db_table = "tide_windows"
        unique_together = [["harbour", "opens_at"]]


class PortCall(Recorded):
    reference = models.CharField(max_length=24, unique=True)
    vessel = models.ForeignKey(Vessel, on_delete=models.PROTECT, related_name="port_calls")
    berth = models.ForeignKey(Berth, on_delete=models.PROTECT, related_name="port_calls", null=True, blank=True)
    pilot = models.ForeignKey(Pilot, on_delete=models.SET_NULL, related_name="port_calls")
    tide_window = models.ForeignKey(TideWindow, on_delete=models.SET_NULL, null=True, blank=True)
    status = models.CharField(max_length=16, choices=CallStatus.choices, default="arriving")
    arrives_at = models.DateTimeField(default=timezone.now)
    remarks = models.TextField(blank=True)

    class Meta:
        db_table = "port_calls"
        ordering = ["-arrives_at"]
        indexes = [
            models.Index(fields=["status", "arrives_at"], name="call_by_status"),
            models.Index(fields=["berth"], name="call_moored", condition=models.Q(status="moored")),
        ]

    def __str__(self):
        return self.reference


class Invoice(Recorded):
    port_call = models.OneToOneField(PortCall, on_delete=models.PROTECT, related_name="invoice")
    number = models.CharField(max_length=20, unique=True)
    harbour_fee = models.FloatField()
    pilot_fee = models.FloatField(default=0)
    total = models.DecimalField(max_digits=12, decimal_places=2)
    paid_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        db_table = "invoices"
