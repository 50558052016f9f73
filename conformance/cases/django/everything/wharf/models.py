"""Every construct that makes a difference to a table, in the harbour's terms."""

import datetime
import uuid
from decimal import Decimal

from django.contrib.auth.models import User
from django.core.validators import MaxValueValidator, MinValueValidator, RegexValidator
from django.db import models
from django.db.models import F, Q
from django.db.models.functions import Lower, Now, Upper
from django.utils import timezone


class Tide(models.TextChoices):
    HIGH = "high", "High water"
    LOW = "low", "Low water"


class Grade(models.IntegerChoices):
    FIRST = 1
    SECOND = 2


def first_mooring():
    return "alongside"


class UpperCodeField(models.CharField):
    def __init__(self, *args, **kwargs):
        kwargs.setdefault("max_length", 6)
        super().__init__(*args, **kwargs)


class EveryType(models.Model):
    small_auto = models.SmallAutoField(primary_key=True)
    flag = models.BooleanField()
    small = models.SmallIntegerField()
    whole = models.IntegerField()
    big = models.BigIntegerField()
    positive_small = models.PositiveSmallIntegerField()
    positive = models.PositiveIntegerField()
    positive_big = models.PositiveBigIntegerField()
    real = models.FloatField()
    amount = models.DecimalField(max_digits=12, decimal_places=4)
    text_bounded = models.CharField(max_length=24)
    slug = models.SlugField()
    slug_plain = models.SlugField(max_length=80, db_index=False)
    email = models.EmailField()
    url = models.URLField()
    file = models.FileField(upload_to="papers")
    path = models.FilePathField(path="/var/papers")
    long_text = models.TextField(max_length=500)
    binary = models.BinaryField()
    day = models.DateField()
    clock = models.TimeField()
    moment = models.DateTimeField()
    span = models.DurationField()
    identifier = models.UUIDField()
    address = models.GenericIPAddressField()
    document = models.JSONField()
    document_maybe = models.JSONField(null=True)
    code = UpperCodeField()


class EveryDefault(models.Model):
    text = models.CharField(max_length=20, default="plain", db_default="it's stored")
    number = models.IntegerField(default=1, db_default=7)
    truth = models.BooleanField(db_default=True)
    exact = models.DecimalField(max_digits=8, decimal_places=2, default=Decimal("1.50"), db_default=Decimal("2.5"))
    made = models.DateTimeField(db_default=Now())
    made_by_code = models.DateTimeField(default=timezone.now)
    day = models.DateField(default=datetime.date.today)
    identifier = models.UUIDField(default=uuid.uuid4)
    bag = models.JSONField(default=dict)
    mooring = models.CharField(max_length=20, default=first_mooring)
    created = models.DateTimeField(auto_now_add=True)
    updated = models.DateTimeField(auto_now=True)
    tide = models.CharField(max_length=4, choices=Tide.choices, default=Tide.HIGH)
    grade = models.IntegerField(choices=Grade.choices, default=Grade.FIRST)
    side = models.CharField(max_length=9, choices=[("port", "Port"), ("starboard", "Starboard")], null=True, blank=True)


class EveryOption(models.Model):
    unique_text = models.CharField(max_length=10, unique=True)
    indexed_text = models.CharField(max_length=10, db_index=True)
    indexed_long = models.TextField(db_index=True)
    indexed_number = models.IntegerField(db_index=True)
    unique_indexed = models.IntegerField(unique=True, db_index=True)
    null_unique = models.IntegerField(unique=True, null=True, blank=True)
    named = models.IntegerField(db_column="Other Name")
    validated = models.IntegerField(validators=[MinValueValidator(1), MaxValueValidator(9)])
    pattern = models.CharField(max_length=7, validators=[RegexValidator(r"^[0-9]{7}$", "seven digits")])
    helped = models.IntegerField("a number", help_text="any number")
    doubled = models.GeneratedField(expression=F("named") * 2, output_field=models.IntegerField(), db_persist=True)
    shouted = models.GeneratedField(expression=Upper("pattern"), output_field=models.CharField(max_length=7), db_persist=True)


class Commented(models.Model):
    noted = models.IntegerField(db_comment="depth in metres; it's \"charted\"")

    class Meta:
        db_table_comment = "one row for each sounding"


class TextKey(models.Model):
    code = models.CharField(max_length=7, primary_key=True)


class UuidKey(models.Model):
    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)


class BigKey(models.Model):
    id = models.BigAutoField(primary_key=True)
    number = models.IntegerField(unique=True)


class PairKey(models.Model):
    pk = models.CompositePrimaryKey("left", "right")
    left = models.IntegerField()
    right = models.IntegerField()


class EveryReference(models.Model):
    to_text = models.ForeignKey(TextKey, on_delete=models.CASCADE)
    to_uuid = models.ForeignKey(UuidKey, on_delete=models.PROTECT, related_name="seen_by_uuid")
    to_big = models.ForeignKey(BigKey, on_delete=models.RESTRICT)
    to_number = models.ForeignKey(BigKey, to_field="number", on_delete=models.SET_NULL, null=True, related_name="+")
    to_default = models.ForeignKey("EveryDefault", on_delete=models.SET_DEFAULT, default=1)
    to_value = models.ForeignKey("wharf.EveryOption", on_delete=models.SET(1))
    left_alone = models.ForeignKey(Commented, on_delete=models.DO_NOTHING)
    not_indexed = models.ForeignKey(Commented, on_delete=models.CASCADE, db_index=False, related_name="plain")
    not_enforced = models.ForeignKey(Commented, on_delete=models.CASCADE, db_constraint=False, related_name="loose")
    named = models.ForeignKey(Commented, on_delete=models.CASCADE, db_column="tgt", related_name="by_name")
    only_one = models.OneToOneField(Commented, on_delete=models.CASCADE, related_name="the_one")
    unique_one = models.ForeignKey(Commented, on_delete=models.CASCADE, unique=True, related_name="unique_ones")
    itself = models.ForeignKey("self", on_delete=models.SET_NULL, null=True, blank=True)
    user = models.ForeignKey(User, on_delete=models.CASCADE)


class ReferenceKey(models.Model):
    owner = models.OneToOneField(TextKey, on_delete=models.CASCADE, primary_key=True)


class ManyToMany(models.Model):
    plain = models.ManyToManyField(TextKey)
    named = models.ManyToManyField(UuidKey, db_table="joined_by_name", related_name="joined")
    friends = models.ManyToManyField("self")
    led = models.ManyToManyField("self", symmetrical=False, related_name="leads")
    through = models.ManyToManyField(BigKey, through="Through")


class Through(models.Model):
    left = models.ForeignKey(ManyToMany, on_delete=models.CASCADE, related_name="lefts")
    right = models.ForeignKey(BigKey, on_delete=models.CASCADE)
    share = models.DecimalField(max_digits=5, decimal_places=2)


class Constrained(models.Model):
    a = models.IntegerField()
    b = models.IntegerField()
    c = models.CharField(max_length=20)
    d = models.CharField(max_length=20, null=True)

    class Meta:
        db_table = "constrained"
        ordering = ["-a", "c"]
        unique_together = [("a", "b"), ("b", "c")]
        indexes = [
            models.Index(fields=["a", "-b"]),
            models.Index(fields=["c"], name="constrained_c"),
            models.Index(Lower("c"), name="constrained_lower"),
            models.Index(fields=["b"], name="constrained_some", condition=Q(a__gt=3)),
        ]
        constraints = [
            models.UniqueConstraint(fields=["a", "c"], name="constrained_named"),
            models.UniqueConstraint(fields=["b"], condition=Q(d__isnull=True), name="constrained_partial"),
            models.UniqueConstraint(Lower("c"), "a", name="constrained_expression"),
            models.CheckConstraint(condition=Q(a__gte=0) & (Q(b__lt=100) | Q(c="x")), name="constrained_check"),
            models.CheckConstraint(condition=~Q(c__in=["y", "z"]), name="constrained_in"),
            models.CheckConstraint(condition=Q(a__lt=F("b")), name="constrained_fields"),
        ]


class Base(models.Model):
    first = models.IntegerField()
    gone = models.IntegerField()
    target = models.ForeignKey(TextKey, on_delete=models.CASCADE, related_name="%(app_label)s_%(class)s_all")

    class Meta:
        abstract = True
        indexes = [models.Index(fields=["first"])]


class ChildOfBase(Base):
    second = models.IntegerField()
    gone = None


class OtherChild(Base):
    third = models.IntegerField()

    class Meta(Base.Meta):
        ordering = ["third"]


class BareChild(Base):
    class Meta:
        verbose_name = "bare"


class Parent(models.Model):
    name = models.CharField(max_length=30)


class Joined(Parent):
    extra = models.IntegerField()


class JoinedByName(Parent):
    link = models.OneToOneField(Parent, on_delete=models.CASCADE, parent_link=True, related_name="named_link")


class Second(Parent):
    class Meta:
        proxy = True


class Unmanaged(models.Model):
    name = models.CharField(max_length=30)

    class Meta:
        managed = False


class Ordered(models.Model):
    parent = models.ForeignKey(Parent, on_delete=models.CASCADE)

    class Meta:
        order_with_respect_to = "parent"


class AVeryLongNameOfAModelThatMakesATableNameLongerThanAnyServerAllowsIt(models.Model):
    name = models.CharField(max_length=30)
