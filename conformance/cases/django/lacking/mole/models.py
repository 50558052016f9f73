"""What only PostgreSQL holds, and the framework leaves out elsewhere without a word."""

from django.db import models


class Lacking(models.Model):
    a = models.IntegerField()
    b = models.IntegerField()
    c = models.CharField(max_length=20, null=True)

    class Meta:
        indexes = [
            models.Index(fields=["a"], include=["b"], name="lacking_covering"),
            models.Index(fields=["c"], name="lacking_some", condition=models.Q(a__gt=3)),
        ]
        constraints = [
            models.UniqueConstraint(fields=["a", "b"], name="lacking_late", deferrable=models.Deferrable.DEFERRED),
            models.UniqueConstraint(fields=["b"], include=["a"], name="lacking_carrying"),
            models.UniqueConstraint(fields=["c"], nulls_distinct=False, name="lacking_nulls"),
            models.UniqueConstraint(fields=["a", "c"], name="lacking_held"),
        ]
