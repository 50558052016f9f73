//! Declarations, read and written again: what stays as it was written, and what is written in the usual way.

use sprachbund_dialect::dialect::{Medium, Settings};
use sprachbund_django::DIALECT;
use sprachbund_host::project::Project;
use sprachbund_schema::source::NoFiles;

/// What is written, and what is written again; nothing where it is the same.
const CASES: &[(&str, &str)] = &[
    ("depth = models.IntegerField()", ""),
    ("depth = models.IntegerField(null=True, blank=True, default=3)", ""),
    ("depth = models.DecimalField(max_digits=6, decimal_places=2)", ""),
    (
        "depth = models.PositiveSmallIntegerField(db_column='deep', unique=True)",
        "depth = models.PositiveSmallIntegerField(unique=True, db_column=\"deep\")",
    ),
    ("note = models.TextField(blank=True, default='')", "note = models.TextField(blank=True, default=\"\")"),
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
        "kind = models.CharField(max_length=9, choices=[(\"b\", \"Bulk\"), (\"c\", \"Container\")])",
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
        "quay = models.ForeignKey('harbour.Quay', models.PROTECT, related_name='berths', null=True)",
        "quay = models.ForeignKey(Quay, on_delete=models.PROTECT, related_name=\"berths\", null=True)",
    ),
    ("quay = models.OneToOneField(Quay, on_delete=models.DO_NOTHING, db_constraint=False)", ""),
    (
        "quay = models.ForeignKey('self', models.SET_NULL, null=True, db_column='next')",
        "quay = models.ForeignKey(\"Berth\", on_delete=models.SET_NULL, null=True, db_column=\"next\")",
    ),
    (
        "quays = models.ManyToManyField(Quay, related_name='+', db_table='at')",
        "quays = models.ManyToManyField(Quay, related_name=\"+\", db_table=\"at\")",
    ),
    (
        "deep = models.GeneratedField(expression=F('id') + 1, output_field=models.IntegerField(), db_persist=True)",
        "deep = models.GeneratedField(\nexpression=models.F(\"id\") + 1,\noutput_field=models.IntegerField(),\ndb_persist=True,\n)",
    ),
    ("where = models.JSONField(default=dict)", ""),
    ("ip = models.GenericIPAddressField(protocol='IPv4')", "ip = models.GenericIPAddressField(protocol=\"IPv4\")"),
    (
        "a = models.IntegerField()\nclass Meta:\n    db_table = 'berths'\n    ordering = ['-a']",
        "a = models.IntegerField()\nclass Meta:\ndb_table = \"berths\"\nordering = [\"-a\"]",
    ),
    (
        "a = models.IntegerField()\nb = models.IntegerField()\nclass Meta:\n    unique_together = [['a', 'b']]",
        "a = models.IntegerField()\nb = models.IntegerField()\nclass Meta:\nunique_together = [[\"a\", \"b\"]]",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    indexes = [models.Index(fields=['-a'], name='by_a')]",
        "a = models.IntegerField()\nclass Meta:\nindexes = [models.Index(fields=[\"-a\"], name=\"by_a\")]",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    indexes = [models.Index(Lower('a'), name='low', condition=Q(a__gt=1))]",
        "a = models.IntegerField()\nclass Meta:\nindexes = [models.Index(Lower(\"a\"), condition=models.Q(a__gt=1), name=\"low\")]",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    constraints = [models.CheckConstraint(condition=Q(a__gte=0) | Q(a__isnull=True), name='positive')]",
        "a = models.IntegerField()\nclass Meta:\nconstraints = [\nmodels.CheckConstraint(condition=models.Q(a__gte=0) | models.Q(a__isnull=True), name=\"positive\"),\n]",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    constraints = [models.UniqueConstraint(fields=['a'], name='one', condition=Q(a__gt=0), include=['id'])]",
        "a = models.IntegerField()\nclass Meta:\nconstraints = [\nmodels.UniqueConstraint(fields=[\"a\"], condition=models.Q(a__gt=0), include=[\"id\"], name=\"one\"),\n]",
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

const HEAD: &str = "import uuid\nfrom decimal import Decimal\nfrom django.core.validators import MaxValueValidator, MinValueValidator, RegexValidator\nfrom django.db import models\nfrom django.db.models import F, Q\nfrom django.db.models.functions import Lower, Now\n\n\nclass Quay(models.Model):\n    code = models.CharField(max_length=9)\n\n\n";

/// The declarations of a class with this body.
fn class(body: &str) -> String {
    let body: String = body.lines().map(|line| format!("    {line}\n")).collect();
    format!("{HEAD}{}{body}{}", "class Berth(models.Model):\n", "")
}

/// The class as it is written again, from its first line on, with one blank where there are several.
fn again(text: String) -> String {
    let settings = Settings::default();
    let mut project = Project::load(vec![("harbour/models.py".into(), text)], &DIALECT.wanted(), &NoFiles);
    let Medium::Classes { read, print } = DIALECT.medium else { panic!("classes") };
    let (declarations, diagnostics) = read(&mut project, &settings);
    assert!(diagnostics.is_empty(), "{diagnostics:#?}");
    let files = print(&declarations, &(DIALECT.conventions)(&settings));
    let holds = |text: &&str| text.contains("class Berth");
    let text = files.iter().map(|file| file.text.as_str()).find(holds).unwrap_or_default();
    let from = text.find("class Berth").unwrap_or_default();
    let line = |line: &str| line.split_whitespace().collect::<Vec<_>>().join(" ");
    text[from..].lines().skip(1).map(line).filter(|line| !line.is_empty()).collect::<Vec<_>>().join("\n")
}

/// What is written of a body, without the lines that are written of any.
fn own_lines(body: &str) -> String {
    let frame = again(class(""));
    assert!(frame.lines().count() > 0, "nothing is written");
    let mut frame: Vec<&str> = frame.lines().collect();
    let again = again(class(body));
    let own = again.lines().filter(|line| match frame.iter().position(|known| known == line) {
        Some(at) => {
            frame.remove(at);
            false
        }
        None => true,
    });
    own.collect::<Vec<_>>().join("\n")
}

#[test]
fn what_is_read_is_written_again() {
    let mut wrong = String::new();
    for (written, wanted) in CASES {
        let found = own_lines(written);
        let wanted = if wanted.is_empty() { written } else { wanted };
        if found != *wanted {
            wrong.push_str(&format!("\u{1}{written}\u{2}{found}\u{3}\n"));
        }
    }
    assert!(wrong.is_empty(), "{wrong}");
}
