//! Declarations, read and written again: what stays as it was written, and what is written in the
//! usual way.

#[path = "../../printing.rs"]
mod printing;

use printing::{Class, check};

/// What is written, and what is written again; nothing where it is the same.
const CASES: &[(&str, &str)] = &[
    ("depth = models.IntegerField()", ""),
    ("depth = models.IntegerField(null=True, blank=True, default=3)", ""),
    ("depth = models.DecimalField(max_digits=6, decimal_places=2)", ""),
    (
        "depth = models.PositiveSmallIntegerField(db_column='deep', unique=True)",
        "depth = models.PositiveSmallIntegerField(unique=True, db_column=\"deep\")",
    ),
    (
        "note = models.TextField(blank=True, default='')",
        "note = models.TextField(blank=True, default=\"\")",
    ),
    (
        "note = models.CharField(max_length=40, db_index=True, db_comment='what it is')",
        "note = models.CharField(max_length=40, db_index=True, db_comment=\"what it is\")",
    ),
    (
        "note = models.CharField(max_length=40, verbose_name='A note', help_text=\"it's long\")",
        "note = models.CharField(max_length=40, help_text=\"it's long\", verbose_name=\"A note\")",
    ),
    (
        "kind = models.CharField(max_length=9, choices=[('b', 'Bulk'), ('c', 'Container')])",
        "kind = models.CharField(max_length=9, choices=[(\"b\", \"Bulk\"), (\"c\", \
         \"Container\")])",
    ),
    ("key = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)", ""),
    ("at = models.DateTimeField(auto_now_add=True)", ""),
    ("at = models.DateTimeField(auto_now=True)", ""),
    ("at = models.DateField(db_default=Now())", ""),
    (
        "price = models.DecimalField(max_digits=6, decimal_places=2, default=Decimal('1.50'))",
        "price = models.DecimalField(max_digits=6, decimal_places=2, default=Decimal(\"1.50\"))",
    ),
    (
        "code = models.CharField(max_length=9, validators=[RegexValidator(r'^[A-Z]+$')])",
        "code = models.CharField(max_length=9, validators=[RegexValidator(\"^[A-Z]+$\")])",
    ),
    ("depth = models.IntegerField(validators=[MinValueValidator(1), MaxValueValidator(30)])", ""),
    ("quay = models.ForeignKey(Quay, on_delete=models.CASCADE)", ""),
    (
        "quay = models.ForeignKey('harbour.Quay', models.PROTECT, related_name='berths', \
         null=True)",
        "quay = models.ForeignKey(Quay, on_delete=models.PROTECT, related_name=\"berths\", \
         null=True)",
    ),
    ("quay = models.OneToOneField(Quay, on_delete=models.DO_NOTHING, db_constraint=False)", ""),
    (
        "quay = models.ForeignKey('self', models.SET_NULL, null=True, db_column='next')",
        "quay = models.ForeignKey(\"Berth\", on_delete=models.SET_NULL, null=True, \
         db_column=\"next\")",
    ),
    (
        "quays = models.ManyToManyField(Quay, related_name='+', db_table='at')",
        "quays = models.ManyToManyField(Quay, related_name=\"+\", db_table=\"at\")",
    ),
    (
        "deep = models.GeneratedField(expression=F('id') + 1, \
         output_field=models.IntegerField(), db_persist=True)",
        "deep = models.GeneratedField(\nexpression=models.F(\"id\") + 1,\n\
         output_field=models.IntegerField(),\ndb_persist=True,\n)",
    ),
    ("where = models.JSONField(default=dict)", ""),
    (
        "ip = models.GenericIPAddressField(protocol='IPv4')",
        "ip = models.GenericIPAddressField(protocol=\"IPv4\")",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    db_table = 'berths'\n    ordering = ['-a']",
        "a = models.IntegerField()\nclass Meta:\ndb_table = \"berths\"\nordering = [\"-a\"]",
    ),
    (
        "a = models.IntegerField()
b = models.IntegerField()
class Meta:
    unique_together = [['a', 'b']]",
        "a = models.IntegerField()\nb = models.IntegerField()\nclass Meta:\n\
         unique_together = [[\"a\", \"b\"]]",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    indexes = [models.Index(fields=['-a'], \
         name='by_a')]",
        "a = models.IntegerField()\nclass Meta:\n\
         indexes = [models.Index(fields=[\"-a\"], name=\"by_a\")]",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    indexes = [models.Index(Lower('a'), \
         name='low', condition=Q(a__gt=1))]",
        "a = models.IntegerField()\nclass Meta:\n\
         indexes = [models.Index(Lower(\"a\"), condition=models.Q(a__gt=1), name=\"low\")]",
    ),
    (
        "a = models.IntegerField()\n\
         class Meta:\n    constraints = [models.CheckConstraint(condition=Q(a__gte=0) | \
         Q(a__isnull=True), name='positive')]",
        "a = models.IntegerField()\nclass Meta:\nconstraints = [\n\
         models.CheckConstraint(condition=models.Q(a__gte=0) | models.Q(a__isnull=True), \
         name=\"positive\"),\n]",
    ),
    (
        "a = models.IntegerField()\n\
         class Meta:\n    constraints = [models.UniqueConstraint(fields=['a'], name='one', \
         condition=Q(a__gt=0), include=['id'])]",
        "a = models.IntegerField()\nclass Meta:\nconstraints = [\n\
         models.UniqueConstraint(fields=[\"a\"], condition=models.Q(a__gt=0), \
         include=[\"id\"], name=\"one\"),\n]",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    managed = False\n    verbose_name = 'a berth'",
        "a = models.IntegerField()\nclass Meta:\nmanaged = False\nverbose_name = \"a berth\"",
    ),
    (
        "a = models.CharField(max_length=9)\ndef __str__(self):\n    return self.a",
        "a = models.CharField(max_length=9)\ndef __str__(self):\nreturn str(self.a)",
    ),
];

const CLASS: Class = Class {
    path: "harbour/models.py",
    head: "import uuid
from decimal import Decimal
from django.core.validators import MaxValueValidator, MinValueValidator, RegexValidator
from django.db import models
from django.db.models import F, Q
from django.db.models.functions import Lower, Now


class Quay(models.Model):
    code = models.CharField(max_length=9)


",
    before: "class Berth(models.Model):\n",
    indentation: "    ",
    after: "",
    first_line: "class Berth",
};

#[test]
fn what_is_read_is_written_again() {
    check(&sprachbund_django::DIALECT, &CLASS, CASES);
}
