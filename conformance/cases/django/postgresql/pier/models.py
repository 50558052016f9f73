"""What only PostgreSQL holds."""

from django.contrib.postgres.constraints import ExclusionConstraint
from django.contrib.postgres.fields import ArrayField, DateRangeField, DateTimeRangeField, DecimalRangeField, IntegerRangeField, RangeOperators
from django.contrib.postgres.functions import RandomUUID, TransactionNow
from django.contrib.postgres.indexes import BrinIndex, GinIndex, HashIndex, OpClass
from django.contrib.postgres.search import SearchVectorField
from django.db import models
from django.db.models.functions import Upper


class Sounding(models.Model):
    names = ArrayField(models.CharField(max_length=20))
    depths = ArrayField(ArrayField(models.IntegerField()), size=3)
    whole = IntegerRangeField()
    exact = DecimalRangeField(null=True)
    days = DateRangeField()
    times = DateTimeRangeField()
    words = SearchVectorField(null=True)
    document = models.JSONField()
    taken_at = models.DateTimeField(db_default=TransactionNow())
    number = models.UUIDField(db_default=RandomUUID())
    place = models.CharField(max_length=40)
    level = models.IntegerField()

    class Meta:
        indexes = [
            GinIndex(fields=["document"], name="sounding_document"),
            BrinIndex(fields=["taken_at"], name="sounding_time"),
            HashIndex(fields=["place"], name="sounding_place"),
            models.Index(fields=["level"], name="sounding_covering", include=["place"]),
            models.Index(fields=["place"], name="sounding_class", opclasses=["varchar_pattern_ops"]),
            models.Index(OpClass(Upper("place"), name="text_pattern_ops"), name="sounding_upper"),
        ]
        constraints = [
            models.UniqueConstraint(fields=["level"], name="sounding_late", deferrable=models.Deferrable.DEFERRED),
            models.UniqueConstraint(fields=["place"], name="sounding_with", include=["level"]),
            models.UniqueConstraint(fields=["place", "level"], name="sounding_once", nulls_distinct=False, violation_error_message="sounded"),
            models.UniqueConstraint(fields=["level"], name="sounding_low", nulls_distinct=False, condition=models.Q(level__lt=0)),
            ExclusionConstraint(name="sounding_apart", expressions=[("times", RangeOperators.OVERLAPS)]),
        ]
