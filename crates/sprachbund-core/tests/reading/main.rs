//! What single constructs mean: small declarations and the facts that they must give.

mod mongoose;
mod prisma;
mod releases;
mod revisions;
mod sequelize;

use sprachbund_core::dialect::Settings;
use sprachbund_core::dialects::by_id;
use sprachbund_core::reading::{Reading, read};
use sprachbund_core::schema::Database;
use sprachbund_core::schema::facts::{Aspect, facts};
use sprachbund_core::source::FileProvider;

/// Files in reach of imports.
struct Files(Vec<(&'static str, &'static str)>);

impl FileProvider for Files {
    fn read(&self, path: &str) -> Option<String> {
        self.0.iter().find(|(known, _)| *known == path).map(|(_, text)| (*text).to_owned())
    }

    fn roots(&self) -> &[String] {
        &[]
    }
}

fn reading(
    dialect: &str,
    text: &str,
    others: Vec<(&'static str, &'static str)>,
    database: Database,
) -> Reading {
    let (dialect, named) = dialect.split_once('@').unwrap_or((dialect, ""));
    let dialect = by_id(dialect).expect("a dialect");
    let path = format!("harbour/models.{}", dialect.extensions[0]);
    // The releases in which the tables below were written, where they name no other.
    let release = match dialect.id {
        _ if !named.is_empty() => Some(named),
        "django" => Some("5.2"),
        "sqlalchemy" => Some("2.0"),
        "typeorm" => Some("0.3"),
        _ => None,
    };
    let mut settings = Settings {
        database: Some(database),
        version: release.map(str::to_owned),
        ..Settings::default()
    };
    read(vec![(path, text.to_owned())], dialect, &mut settings, &Files(others))
}

/// Whether each wanted fact (`table, element, aspect = value`) is there; `!` before it wants it
/// absent.
fn check(dialect: &str, text: &str, others: Vec<(&'static str, &'static str)>, wanted: &[&str]) {
    check_on(Database::PostgreSql, dialect, text, others, wanted);
}

fn check_on(
    database: Database,
    dialect: &str,
    text: &str,
    others: Vec<(&'static str, &'static str)>,
    wanted: &[&str],
) {
    let found: Vec<String> = facts(&reading(dialect, text, others, database).schema)
        .into_iter()
        .map(|(key, value)| format!("{key} = {value}"))
        .collect();
    for line in wanted {
        match line.strip_prefix('!') {
            Some(unwanted) => assert!(
                !found.iter().any(|fact| fact.starts_with(unwanted)),
                "{unwanted} is there\n{text}\n{found:#?}"
            ),
            None => assert!(
                found.iter().any(|fact| fact == line),
                "{line} is missing\n{text}\n{found:#?}"
            ),
        }
    }
}

const DJANGO: &[(&str, &[&str])] = &[
    (
        "a = models.CharField(max_length=24)",
        &[
            "harbour_t, column a, type = \"varchar(24)\"",
            "harbour_t, column a, nullable = \"not null\"",
        ],
    ),
    (
        "a = models.CharField('label', max_length=2 ** 3)",
        &[
            "harbour_t, column a, type = \"varchar(8)\"",
            "harbour_t, column a, extra verbose_name = [\"label\"]",
        ],
    ),
    (
        "a = models.TextField(null=True, blank=True)",
        &[
            "harbour_t, column a, nullable = \"null\"",
            "harbour_t, column a, required_on_input = \"optional\"",
        ],
    ),
    (
        "a = models.DecimalField(max_digits=7, decimal_places=3)",
        &["harbour_t, column a, type = \"numeric(7,3)\""],
    ),
    (
        "a = models.PositiveIntegerField()",
        &[
            "harbour_t, column a, type = \"integer\"",
            "harbour_t, column a, rules = [{\"rule\":\"min_value\",\"value\":0,\"message\":null}]",
            "harbour_t, check \"a\" >= 0, exists = true",
        ],
    ),
    (
        "a = models.SlugField()",
        &[
            "harbour_t, index a, exists = true",
            "harbour_t, index a varchar_pattern_ops, exists = true",
        ],
    ),
    (
        "a = models.SlugField(unique=True)",
        &["harbour_t, unique a, as = \"constraint\"", "!harbour_t, index a, exists"],
    ),
    (
        "a = models.EmailField(db_index=True)",
        &["harbour_t, column a, format = \"email\"", "harbour_t, index a, exists = true"],
    ),
    ("a = models.IntegerField(db_column='Other')", &["harbour_t, column Other, attribute = \"a\""]),
    (
        "a = models.IntegerField(default=0x10)",
        &["harbour_t, column a, default in the application = {\"literal\":16}"],
    ),
    (
        "a = models.BooleanField(default=False)",
        &["harbour_t, column a, default in the application = {\"literal\":false}"],
    ),
    (
        "a = models.JSONField(default=dict)",
        &["harbour_t, column a, default in the application = {\"literal\":{}}"],
    ),
    (
        "a = models.JSONField(default=lambda: [1])",
        &["harbour_t, column a, default in the application = {\"literal\":[1]}"],
    ),
    (
        "a = models.UUIDField(default=uuid.uuid4)",
        &["harbour_t, column a, default in the application = {\"function\":\"random-uuid\"}"],
    ),
    (
        "a = models.DateTimeField(default=timezone.now)",
        &["harbour_t, column a, default in the application = {\"function\":\"now\"}"],
    ),
    (
        "a = models.DateTimeField(db_default=Now())",
        &["harbour_t, column a, default in the database = {\"function\":\"statement-now\"}"],
    ),
    (
        "a = models.DateTimeField(auto_now=True)",
        &[
            "harbour_t, column a, purpose = \"update-time\"",
            "harbour_t, column a, update in the application = {\"function\":\"now\"}",
        ],
    ),
    (
        "a = models.IntegerField(default=LIMIT)",
        &["harbour_t, column a, default in the application = {\"literal\":12}"],
    ),
    (
        "a = models.CharField(max_length=9, default=f'{PREFIX}-{LIMIT}')",
        &["harbour_t, column a, default in the application = {\"literal\":\"pier-12\"}"],
    ),
    (
        "a = models.IntegerField(default=twice)",
        &["harbour_t, column a, default in the application = {\"literal\":24}"],
    ),
    (
        "a = models.CharField(max_length=5, choices=Side.choices, default=Side.PORT)",
        &[
            "harbour_t, column a, choices = \"Side\"",
            "harbour_t, column a, default in the application = {\"literal\":\"port\"}",
        ],
    ),
    (
        "a = models.CharField(max_length=5, choices=[('x', 'X')])",
        &["harbour_t, column a, choices = \"TA\""],
    ),
    (
        "a = models.IntegerField(validators=[MinValueValidator(3)])",
        &["harbour_t, column a, rules = [{\"rule\":\"min_value\",\"value\":3,\"message\":null}]"],
    ),
    ("a = CodeField()", &["harbour_t, column a, type = \"varchar(6)\""]),
    (
        "a = models.IntegerField()\n    b = models.GeneratedField(expression=F('a') * 2, \
         output_field=models.BigIntegerField(), db_persist=True)",
        &["harbour_t, column b, type = \"bigint\"", "harbour_t, column b, nullable = \"null\""],
    ),
    (
        "up = models.ForeignKey('self', on_delete=models.CASCADE)",
        &[
            "harbour_t, column up_id, type = \"integer\"",
            "harbour_t, index up_id, exists = true",
            "harbour_t, relation up_id, on_delete = \"cascade\"",
            "harbour_t, foreign key up_id, on_delete = \"no action\"",
            "harbour_t, relation up_id, inverse = \"t_set\"",
        ],
    ),
    (
        "up = models.ForeignKey('harbour.T', models.PROTECT, related_name='+', \
         db_constraint=False)",
        &[
            "!harbour_t, relation up_id, inverse",
            "harbour_t, foreign key up_id, enforced = \"application\"",
        ],
    ),
    (
        "up = models.OneToOneField('self', models.SET_NULL, null=True)",
        &[
            "harbour_t, unique up_id, as = \"constraint\"",
            "harbour_t, relation up_id, inverse = \"t\"",
        ],
    ),
    (
        "up = models.ForeignKey('self', models.SET(7), db_column='above')",
        &[
            "harbour_t, relation above, on_delete = \"set value\"",
            "harbour_t, relation above, extra set_value = [7]",
        ],
    ),
    (
        "who = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE)",
        &["harbour_t, relation who_id, target = \"auth_user\"", "auth_user, external = true"],
    ),
    (
        "who = models.ForeignKey(User, models.CASCADE)",
        &["harbour_t, column who_id, type = \"integer\""],
    ),
    (
        "near = models.ManyToManyField('self')",
        &[
            "harbour_t_near, unique from_t_id, to_t_id, as = \"constraint\"",
            "harbour_t, relation through harbour_t_near, symmetrical = true",
        ],
    ),
    (
        "a = models.CharField(max_length=3, primary_key=True)",
        &["harbour_t, key, columns = [\"a\"]", "!harbour_t, column id"],
    ),
    (
        "pk = models.CompositePrimaryKey('a', 'b')\n    a = models.IntegerField()\n    b = \
         models.IntegerField()",
        &["harbour_t, key, columns = [\"a\",\"b\"]", "!harbour_t, column pk"],
    ),
    (
        "a = ArrayField(models.CharField(max_length=4))",
        &["harbour_t, column a, type = \"varchar(4) array\""],
    ),
    (
        "a = models.IntegerField()
    class Meta:
        db_table = 'tbl'
        ordering = ['-a']",
        &["tbl, order = [{\"field\":\"a\",\"descending\":true}]"],
    ),
    (
        "a = models.IntegerField()
    b = models.IntegerField()
    class Meta:
        unique_together = ('a', 'b')",
        &["harbour_t, unique a, b, as = \"constraint\""],
    ),
    (
        "a = models.IntegerField()\n    class Meta:\n        indexes = \
         [models.Index(fields=['-a'], name='ix', condition=Q(a__gt=1))]",
        &["harbour_t, index a desc where \"a\" > 1, name = \"ix\""],
    ),
    (
        "a = models.CharField(max_length=4)\n    class Meta:\n        constraints = \
         [models.UniqueConstraint(Lower('a'), name='low')]",
        &["harbour_t, unique index lower(\"a\"), name = \"low\""],
    ),
    (
        "a = models.IntegerField(db_column='aa')\n    class Meta:\n        constraints = \
         [models.CheckConstraint(condition=Q(a__range=(1, 5)) | ~Q(a=9), name='ok')]",
        &["harbour_t, check ((\"aa\" >= 1) AND (\"aa\" <= 5)) OR (\"aa\" <> 9), name = \"ok\""],
    ),
    (
        "a = models.IntegerField()\n    class Meta:\n        managed = False",
        &["!harbour_t, created"],
    ),
    (
        "a = models.CharField(max_length=4)\n    def __str__(self):\n        return self.a",
        &["harbour_t, label = \"a\""],
    ),
];

const DJANGO_HEAD: &str = "import uuid
from django.conf import settings
from django.contrib.auth.models import User
from django.contrib.postgres.fields import ArrayField
from django.core.validators import MinValueValidator
from django.db import models
from django.db.models import F, Q
from django.db.models.functions import Lower, Now
from django.utils import timezone
from .names import LIMIT, PREFIX, CodeField, Side, twice


class T(models.Model):
    ";

const DJANGO_OTHER: &str = "from django.db import models
PREFIX = 'pier'
LIMIT = 3 * 4


def twice():
    return LIMIT * 2


class CodeField(models.CharField):
    def __init__(self, *args, **kwargs):
        kwargs['max_length'] = 6
        super().__init__(*args, **kwargs)


class Side(models.TextChoices):
    PORT = 'port', 'Port'
";

#[test]
fn django_constructs() {
    for (body, wanted) in DJANGO {
        check(
            "django",
            &format!("{DJANGO_HEAD}{body}\n"),
            vec![("harbour/names.py", DJANGO_OTHER)],
            wanted,
        );
    }
}

/// Whole files: bases, mixins, options that are inherited, proxies.
/// What MariaDB makes of the same words.
const DJANGO_ON_MARIADB: &[(&str, &[&str])] = &[
    ("a = models.DateTimeField()", &["harbour_t, column a, held as = \"datetime(6)\""]),
    (
        "a = models.TextField(db_index=True)",
        &["harbour_t, column a, held as = \"longtext\"", "!harbour_t, index a"],
    ),
    ("a = models.UUIDField()", &["harbour_t, column a, held as = \"uuid\""]),
    (
        "a = models.PositiveIntegerField()",
        &[
            "harbour_t, column a, type = \"unsigned integer\"",
            "harbour_t, column a, rules = [{\"rule\":\"min_value\",\"value\":0,\"message\":null}]",
            "harbour_t, check \"a\" >= 0, exists = true",
        ],
    ),
    (
        "a = models.SlugField()",
        &["harbour_t, index a, exists = true", "!harbour_t, index a varchar_pattern_ops"],
    ),
    (
        "up = models.ForeignKey('self', models.CASCADE, db_index=False)",
        &["harbour_t, index up_id, exists = true", "!harbour_t, foreign key up_id, deferrable"],
    ),
    (
        "up = models.ForeignKey('self', models.CASCADE, db_index=False, db_constraint=False)",
        &["!harbour_t, index up_id"],
    ),
    (
        "up = models.ForeignKey('self', models.CASCADE)\n    class Meta:\n        \
         unique_together = [('up', 'id')]",
        &["!harbour_t, index up_id", "harbour_t, unique up_id, id, as = \"constraint\""],
    ),
    (
        "a = models.IntegerField()\n    class Meta:\n        indexes = \
         [models.Index(fields=['a'], name='i', condition=Q(a__gt=3)), models.Index(Lower('a'), \
         name='j')]",
        &[
            "harbour_t, index a, exists = true",
            "!harbour_t, index a where",
            "!harbour_t, index lower",
        ],
    ),
    (
        "a = models.IntegerField()\n    class Meta:\n        constraints = \
         [models.UniqueConstraint(fields=['a'], name='i', condition=Q(a__gt=3))]",
        &["!harbour_t, unique"],
    ),
];

const TYPEORM_ON_MARIADB: &[(&str, &[&str])] = &[
    ("@Column() a!: string;", &["t, column a, type = \"varchar(255)\""]),
    ("@Column('decimal') a!: string;", &["t, column a, type = \"numeric(10,0)\""]),
    ("@Column() a!: Date;", &["t, column a, held as = \"datetime\""]),
    (
        "@CreateDateColumn() a!: Date;",
        &[
            "t, column a, held as = \"datetime(6)\"",
            "t, column a, default in the database = {\"function\":\"now\"}",
        ],
    ),
    (
        "@UpdateDateColumn() a!: Date;",
        &["t, column a, update in the database = {\"function\":\"now\"}"],
    ),
    (
        "@Column({ type: 'int', unsigned: true }) a!: number;",
        &["t, column a, type = \"unsigned integer\"", "!t, check"],
    ),
    ("@Column('text') a!: string;", &["t, column a, held as = \"text\""]),
    (
        "@Column({ type: 'timestamp', onUpdate: 'now()' }) a!: Date;",
        &["t, column a, update in the database = {\"function\":\"now\"}"],
    ),
    ("@ManyToOne(() => T) up!: T;", &["t, index upId, exists = true"]),
    ("@ManyToOne(() => T, { createForeignKeyConstraints: false }) up!: T;", &["!t, index upId"]),
    (
        "@Index({ where: '`a` > 3' }) @Column() a!: number;",
        &["t, index a, exists = true", "!t, index a where"],
    ),
];

#[test]
fn constructs_on_mariadb() {
    for (body, wanted) in DJANGO_ON_MARIADB {
        check_on(
            Database::MariaDb,
            "django",
            &format!("{DJANGO_HEAD}{body}\n"),
            vec![("harbour/names.py", DJANGO_OTHER)],
            wanted,
        );
    }
    for (body, wanted) in TYPEORM_ON_MARIADB {
        let text = format!("{TYPEORM_HEAD}{body}\n}}\n");
        check_on(
            Database::MariaDb,
            "typeorm",
            &text,
            vec![("harbour/names.ts", TYPEORM_OTHER)],
            wanted,
        );
    }
}

/// What a framework leaves out on a server that lacks it, and how often that is told.
#[test]
fn what_is_left_out_without_a_word_is_told() {
    let index = |index: &str| {
        format!(
            "a = models.IntegerField()\n    class Meta:\n        indexes = [models.Index({index})]"
        )
    };
    let unique = |unique: &str| {
        format!(
            "a = models.IntegerField()\n    class Meta:\n        constraints = \
             [models.UniqueConstraint({unique})]"
        )
    };
    let django: Vec<(String, [usize; 3])> = vec![
        (index("fields=['a'], name='i', condition=Q(a__gt=3)"), [0, 1, 0]),
        (index("Lower('a'), name='i'"), [0, 1, 0]),
        (index("fields=['a'], name='i', include=['id']"), [0, 1, 1]),
        (index("fields=['-a'], name='i'"), [0, 0, 0]),
        (unique("fields=['a'], name='u', condition=Q(a__gt=3)"), [0, 1, 0]),
        (unique("fields=['a'], name='u', deferrable=models.Deferrable.DEFERRED"), [0, 1, 1]),
        (unique("fields=['a'], name='u', nulls_distinct=False"), [0, 1, 1]),
        (unique("fields=['a'], name='u'"), [0, 0, 0]),
        ("a = models.TextField(db_index=True)".into(), [0, 1, 0]),
        ("a = models.CharField(max_length=9, db_index=True)".into(), [0, 0, 0]),
    ];
    let typeorm: &[(&str, [usize; 3])] = &[
        ("@Index({ where: 'a > 3' }) @Column() a!: number;", [0, 1, 0]),
        ("@Check('a > 3') @Column() a!: number;", [0, 1, 0]),
        ("@ManyToOne(() => T, { deferrable: 'INITIALLY DEFERRED' }) up!: T;", [0, 1, 0]),
        ("@ManyToOne(() => T) up!: T;", [0, 0, 0]),
    ];
    let django =
        django.iter().map(|(body, told)| ("django", format!("{DJANGO_HEAD}{body}\n"), told));
    let typeorm =
        typeorm.iter().map(|(body, told)| ("typeorm", format!("{TYPEORM_HEAD}{body}\n}}\n"), told));
    for (dialect, text, told) in django.chain(typeorm) {
        for (database, told) in
            [Database::PostgreSql, Database::MariaDb, Database::Sqlite].into_iter().zip(told)
        {
            let reading =
                reading(dialect, &text, vec![("harbour/names.py", DJANGO_OTHER)], database);
            let found = reading
                .diagnostics
                .iter()
                .filter(|diagnostic| diagnostic.code == "not-held")
                .count();
            assert_eq!(found, *told, "{text}\non {database:?}");
        }
    }
}

/// Columns of a schema object have the words, enumerations and generated values of decorated
/// properties.
#[test]
fn schema_objects_are_read_as_decorators_are() {
    for (database, object, decorated) in [
        (
            Database::PostgreSql,
            "id: { type: 'int', primary: true, generated: true }",
            "@PrimaryGeneratedColumn() id!: number;",
        ),
        (
            Database::MariaDb,
            "id: { type: 'int', primary: true, generated: true, unsigned: true }",
            "@PrimaryGeneratedColumn({ unsigned: true }) id!: number;",
        ),
        (
            Database::Sqlite,
            "id: { type: 'int', primary: true, generated: 'increment' }",
            "@PrimaryGeneratedColumn() id!: number;",
        ),
        (
            Database::PostgreSql,
            "id: { type: 'uuid', primary: true, generated: 'uuid' }",
            "@PrimaryGeneratedColumn('uuid') id!: string;",
        ),
        (
            Database::MariaDb,
            "id: { type: 'uuid', primary: true, generated: 'uuid' }",
            "@PrimaryGeneratedColumn('uuid') id!: string;",
        ),
        (
            Database::MariaDb,
            "id: { type: 'int', primary: true }, a: { type: 'datetime', updateDate: true }",
            "@PrimaryColumn() id!: number; @UpdateDateColumn() a!: Date;",
        ),
        (
            Database::MariaDb,
            "id: { type: 'int', primary: true }, a: { type: 'int', asExpression: '`id` * 2' }",
            "@PrimaryColumn() id!: number; @Column({ asExpression: '`id` * 2' }) a!: number;",
        ),
        (
            Database::PostgreSql,
            "id: { type: 'int', primary: true }, a: { type: 'enum', enum: ['x', 'y'] }",
            "@PrimaryColumn() id!: number; @Column({ type: 'enum', enum: ['x', 'y'] }) a!: 'x' \
             | 'y';",
        ),
        (
            Database::Sqlite,
            "id: { type: 'int', primary: true }, a: { type: 'simple-enum', enum: ['x', 'y'] }",
            "@PrimaryColumn() id!: number; @Column({ type: 'simple-enum', enum: ['x', 'y'] }) \
             a!: 'x' | 'y';",
        ),
    ] {
        let of = |text: &str| {
            let mut found = facts(&reading("typeorm", text, Vec::new(), database).schema);
            found.retain(|key, _| key.aspect != Aspect::OptionalInCode);
            found
        };
        let object = of(&format!(
            "import {{ EntitySchema }} from 'typeorm';\n\
             export const T = new EntitySchema({{ name: 'T', columns: {{ {object} }} }});\n"
        ));
        let decorated = of(&format!(
            "import {{ Entity }} from 'typeorm';\n@Entity()\nexport class T {{ {decorated} }}\n"
        ));
        assert_eq!(object, decorated, "{database:?}");
    }
}

/// Words that the server's driver refuses, and as what they are read.
#[test]
fn types_that_a_server_lacks_are_named() {
    for (database, word, read_as) in [
        (Database::MariaDb, "timestamptz", Some("timestamp with time zone")),
        (Database::MariaDb, "jsonb", Some("native(jsonb)")),
        (Database::MariaDb, "tinyint", None),
        (Database::PostgreSql, "longtext", Some("text")),
        (Database::PostgreSql, "money", None),
        (Database::Sqlite, "timestamptz", Some("native(timestamptz)")),
        (Database::Sqlite, "nvarchar", None),
    ] {
        let reading = reading(
            "typeorm",
            &format!("{TYPEORM_HEAD}@Column('{word}') a!: string;\n}}\n"),
            Vec::new(),
            database,
        );
        let told =
            reading.diagnostics.iter().any(|diagnostic| diagnostic.code == "unsupported-type");
        assert_eq!(told, read_as.is_some(), "{word} on {database:?}");
        let ty = reading.schema.entities[0].field("a").map(|field| field.r#type.to_string());
        assert!(read_as.is_none_or(|read_as| ty.as_deref() == Some(read_as)), "{word}: {ty:?}");
    }
}

#[test]
fn django_classes() {
    let head = "from django.db import models\n\n\n";
    let base = "class Base(models.Model):
    a = models.IntegerField()
    b = models.IntegerField()
    up = models.ForeignKey('self', models.CASCADE, related_name='%(app_label)s_%(class)s_all')
    class Meta:
        abstract = True
        indexes = [models.Index(fields=['a'])]


";
    let cases: &[(&str, &[&str])] = &[
        (
            "class Child(Base):\n    b = None\n",
            &["harbour_child, index a, exists = true", "!harbour_child, column b", "!harbour_base"],
        ),
        (
            "class Child(Base):\n    class Meta:\n        ordering = ['a']\n",
            &["!harbour_child, index a, exists"],
        ),
        (
            "class Child(Base):\n    class Meta(Base.Meta):\n        ordering = ['a']\n",
            &["harbour_child, index a, exists = true"],
        ),
        (
            "class Options(Base.Meta):
    db_table = 'by_class'


class Child(Base):
    class Meta(Options):
        pass
",
            &["by_class, index a, exists = true"],
        ),
        (
            "class Whole(models.Model):
    n = models.IntegerField()


class Part(Whole):
    m = models.IntegerField()
",
            &[
                "harbour_part, key, columns = [\"whole_ptr_id\"]",
                "harbour_part, foreign key whole_ptr_id, references = \
                 [null,\"harbour_whole\",[\"id\"]]",
                "!harbour_part, column n",
            ],
        ),
        (
            "class Whole(models.Model):
    n = models.IntegerField()


class Second(Whole):
    class Meta:
        proxy = True
",
            &["harbour_whole as Second, inherits = \
               {\"entity\":\"harbour.Whole\",\"how\":\"same-table\"}"],
        ),
    ];
    for (text, wanted) in cases {
        check("django", &format!("{head}{base}{text}"), Vec::new(), wanted);
    }
}

const TYPEORM: &[(&str, &[&str])] = &[
    (
        "@Column() a!: string;",
        &[
            "t, column a, type = \"varchar\"",
            "t, column a, nullable = \"not null\"",
            "t, column a, optional_in_code = \"required\"",
        ],
    ),
    (
        "@Column() a?: number;",
        &[
            "t, column a, type = \"integer\"",
            "t, column a, optional_in_code = \"optional\"",
            "t, column a, nullable = \"not null\"",
        ],
    ),
    ("@Column() a!: Date;", &["t, column a, type = \"timestamp\""]),
    (
        "@Column({ type: 'int8', nullable: true }) a!: string | null;",
        &["t, column a, type = \"bigint\"", "t, column a, nullable = \"null\""],
    ),
    ("@Column('varchar', { length: 12 }) a!: string;", &["t, column a, type = \"varchar(12)\""]),
    (
        "@Column({ ...SHORT, unique: true }) a!: string;",
        &["t, column a, type = \"varchar(10)\"", "t, unique a, as = \"constraint\""],
    ),
    ("@Column({ name: `${PREFIX}_a` }) a!: string;", &["t, column pier_a, attribute = \"a\""]),
    (
        "@Column({ default: 7 }) a!: number;",
        &["t, column a, default in the database = {\"literal\":7}"],
    ),
    (
        "@Column({ default: () => 'now()' }) a!: Date;",
        &["t, column a, default in the database = {\"function\":\"now\"}"],
    ),
    (
        "@Column({ default: () => \"'it''s'\" }) a!: string;",
        &["t, column a, default in the database = {\"literal\":\"it's\"}"],
    ),
    (
        "@Column() a: string = 'x';",
        &[
            "t, column a, default in the application = {\"literal\":\"x\"}",
            "!t, column a, default in the database",
        ],
    ),
    (
        "@Column({ default: null, nullable: true, type: 'text' }) a!: string | null;",
        &["!t, column a, default in the database"],
    ),
    (
        "@Column() a!: Side;",
        &["t, column a, type = \"varchar\"", "t, column a, choices = \"Side\""],
    ),
    (
        "@Column({ type: 'enum', enum: Side, default: Side.Port }) a!: Side;",
        &[
            "t, column a, type = \"enum(Side)\"",
            "t, column a, default in the database = {\"literal\":\"port\"}",
        ],
    ),
    (
        "@Column({ type: 'enum', enum: ['x', 'y'] }) a!: string;",
        &["t, column a, type = \"enum(TA)\""],
    ),
    (
        "@Column({ type: 'text', array: true }) a!: string[];",
        &["t, column a, type = \"text array\""],
    ),
    (
        "@Column({ type: 'uuid' }) @Generated('uuid') a!: string;",
        &["t, column a, default in the database = {\"function\":\"random-uuid\"}"],
    ),
    (
        "@Column({ type: 'int', asExpression: 'id * 2', generatedType: 'STORED' }) a!: number;",
        &["t, column a, type = \"integer\""],
    ),
    (
        "@CreateDateColumn() a!: Date;",
        &[
            "t, column a, purpose = \"creation-time\"",
            "t, column a, default in the database = {\"function\":\"now\"}",
        ],
    ),
    (
        "@DeleteDateColumn() a!: Date | null;",
        &["t, column a, nullable = \"null\"", "t, soft_delete = \"a\""],
    ),
    (
        "@DeleteDateColumn() b!: Date | null; @DeleteDateColumn() a!: Date | null;",
        &["t, soft_delete = \"b\""],
    ),
    (
        "@VersionColumn() a!: number;",
        &["t, column a, type = \"integer\"", "t, column a, purpose = \"version\""],
    ),
    ("@Index() @Column() a!: string;", &["t, index a, exists = true"]),
    ("@Index('ix', { unique: true }) @Column() a!: string;", &["t, unique index a, name = \"ix\""]),
    (
        "@Column(() => Position) at!: Position;",
        &[
            "t, column atLatitude, type = \"double precision\"",
            "t, column atLon, attribute = \"atLongitude\"",
        ],
    ),
    (
        "@Column(() => Position, { prefix: false }) at!: Position;",
        &["t, column latitude, type = \"double precision\""],
    ),
    (
        "@ManyToOne(() => T) up!: T | null;",
        &[
            "t, column upId, nullable = \"null\"",
            "t, foreign key upId, on_delete = \"no action\"",
            "!t, index upId",
            "!t, relation upId, inverse",
        ],
    ),
    (
        "@ManyToOne(() => T, { nullable: false, onDelete: 'CASCADE', onUpdate: 'RESTRICT' }) \
         up!: T;",
        &[
            "t, foreign key upId, on_delete = \"cascade\"",
            "t, foreign key upId, on_update = \"restrict\"",
            "t, column upId, nullable = \"not null\"",
        ],
    ),
    (
        "@ManyToOne('T', 'downs') @JoinColumn({ name: 'above' }) up!: T | null;\n  \
         @OneToMany('T', 'up') downs!: T[];",
        &["t, relation above, inverse = \"downs\""],
    ),
    (
        "@OneToOne(() => T) @JoinColumn() twin!: T | null;",
        &["t, unique twinId, as = \"constraint\"", "t, relation twinId, kind = \"one-to-one\""],
    ),
    (
        "@ManyToMany(() => T) @JoinTable() near!: T[];",
        &[
            "t_near_t, key, columns = [\"tId_1\",\"tId_2\"]",
            "t_near_t, foreign key tId_1, on_delete = \"cascade\"",
        ],
    ),
    (
        "@Column() upId!: number;\n  @ManyToOne(() => T) @JoinColumn({ name: 'upId' }) up!: T;",
        &["t, column upId, nullable = \"not null\"", "t, column upId, attribute = \"upId\""],
    ),
    ("@PrimaryColumn() b!: string;", &["t, key, columns = [\"id\",\"b\"]"]),
];

const TYPEORM_HEAD: &str = "import { Column, Entity } from 'typeorm';
import { PREFIX, Position, SHORT, Side } from './names';

@Entity()
export class T {
  @PrimaryGeneratedColumn()
  id!: number;

  ";

const TYPEORM_OTHER: &str = "export const PREFIX = 'pier';
export const SHORT = { length: 10 };
export enum Side { Port = 'port', Starboard = 'starboard' }
export class Position {
  @Column('float') latitude!: number;
  @Column({ type: 'float', name: 'lon' }) longitude!: number;
}
";

#[test]
fn typeorm_constructs() {
    for (body, wanted) in TYPEORM {
        check(
            "typeorm",
            &format!("{TYPEORM_HEAD}{body}\n}}\n"),
            vec![("harbour/names.ts", TYPEORM_OTHER)],
            wanted,
        );
    }
}

#[test]
fn typeorm_classes() {
    let id = "@PrimaryColumn() id!: number;";
    let cases: &[(&str, &[&str])] = &[
        (
            "@Entity('x', { schema: 's', comment: 'c', synchronize: false }) class A { ID }",
            &["x, namespace = \"s\"", "x, comment = \"c\"", "!x, created"],
        ),
        ("@Entity() class HTTPLogV2 { ID }", &["http_log_v2, exists = true"]),
        (
            "@Entity() @Unique('u', ['a', 'id']) @Check('c', `\"a\" > 1`) @Index((x: A) => \
             [x.a, x.id], { unique: true }) class A { ID @Column() a!: number; }",
            &[
                "a, unique a, id, name = \"u\"",
                "a, check \"a\" > 1, name = \"c\"",
                "a, unique index a, id, exists = true",
            ],
        ),
        (
            "export abstract class B { ID @Index() @Column() n!: string; } @Entity() class A \
             extends B { @Column() m!: string; }",
            &["a, column n, type = \"varchar\"", "a, column m, type = \"varchar\"", "!b, exists"],
        ),
        (
            "@Entity() @TableInheritance({ column: { name: 'kind' } }) class A { ID } \
             @ChildEntity('tug') class Tug extends A { @Column() pull!: number; }",
            &[
                "a, column pull, nullable = \"null\"",
                "a, index kind, exists = true",
                "a as Tug, extra discriminator_value = [\"tug\"]",
            ],
        ),
        (
            "export const S = new EntitySchema({ name: 'Buoy', tableName: 'buoys', columns: { \
             id: { type: 'int', primary: true, generated: true }, lit: \
             { type: Boolean, default: true } } });",
            &[
                "buoys, column id, identity = \"sequence\"",
                "buoys, column lit, default in the database = {\"literal\":true}",
            ],
        ),
    ];
    for (text, wanted) in cases {
        check("typeorm", &text.replace("ID", id), Vec::new(), wanted);
    }
}

/// Each text has a diagnostic of its code.
fn name_what_is_not_known(cases: &[(&str, String, &str)]) {
    for (dialect, text, code) in cases {
        let found: Vec<&str> = reading(dialect, text, Vec::new(), Database::PostgreSql)
            .diagnostics
            .iter()
            .map(|diagnostic| diagnostic.code)
            .collect();
        assert!(found.contains(code), "{code} in {found:?}\n{text}");
    }
}

/// What cannot be known is named, with its code.
#[test]
fn what_cannot_be_known_of_django_is_named() {
    let django = |body: &str| {
        format!(
            "from elsewhere import Thing, ThingField
from django.db import models


class T(models.Model):
    {body}
"
        )
    };
    name_what_is_not_known(&[
        ("django", django("a = ThingField()"), "unknown-field-class"),
        ("django", django("a = Thing()"), "unknown-field-class"),
        ("django", django("a = models.ForeignKey(Thing, models.CASCADE)"), "undeclared-target"),
        ("django", django("a = models.ForeignKey(Thing.find(), models.CASCADE)"), "opaque-target"),
        (
            "django",
            django(
                "a = models.IntegerField()\n    class Meta:\n        unique_together = ('a', 'b')",
            ),
            "unknown-attribute",
        ),
        (
            "django",
            django("a = models.ForeignKey(get_model('harbour', 'T'), models.CASCADE)"),
            "looked-up-target",
        ),
        (
            "django",
            django("x = GenericForeignKey('a', 'b')").replace(
                "import models",
                "import models\nfrom django.contrib.contenttypes.fields import GenericForeignKey",
            ),
            "generic-relation",
        ),
        (
            "django",
            django("pass").replace("(models.Model)", "(Thing, models.Model)"),
            "unread-base",
        ),
        (
            "django",
            "from django.db import models\n\nif True:\n    class T(models.Model):\n        pass\n"
                .to_owned(),
            "conditional-class",
        ),
        (
            "django",
            django("pass").replace("class T", "@registered\nclass T"),
            "decorators-left-out",
        ),
    ]);
}

#[test]
fn what_cannot_be_known_of_typeorm_is_named() {
    let typeorm = |body: &str| {
        format!("@Entity()\nclass T {{\n  @PrimaryColumn() id!: number;\n  {body}\n}}\n")
    };
    name_what_is_not_known(&[
        ("typeorm", typeorm("@BeforeInsert() a() {}"), "decorators-left-out"),
        ("typeorm", typeorm("@IsEmail() @Column() a!: string;"), "decorators-left-out"),
        (
            "typeorm",
            typeorm("@ManyToOne(() => T) @JoinColumn({ nme: 'a' }) a!: T;"),
            "unread-option",
        ),
        (
            "typeorm",
            typeorm(
                "@ManyToMany(() => T) @JoinTable({ joinColumns: [{ name: 'a' }, { name: 'b' }] \
                 }) a!: T[];",
            ),
            "composite-join-table",
        ),
        (
            "typeorm",
            "function f() {\n  @Entity()\n  class T { @PrimaryColumn() id!: number; }\n}\n"
                .to_owned(),
            "conditional-class",
        ),
        ("typeorm", typeorm("@Column() a!: string[];"), "unknown-column-type"),
        ("typeorm", typeorm("@Column() a = 3;"), "unknown-column-type"),
        (
            "typeorm",
            typeorm("@Column({ type: 'enum', enum: values() }) a!: string;"),
            "unknown-column-type",
        ),
        ("typeorm", typeorm("@ManyToOne(() => Gone) a!: unknown;"), "undeclared-target"),
        ("typeorm", typeorm("@OneToMany(() => T, (t) => t.gone) a!: T[];"), "missing-owner"),
        (
            "typeorm",
            typeorm(
                "@OneToMany(() => T, (t) => t.b) a!: T[];\n  @OneToOne(() => T) @JoinColumn() \
                 b!: T;",
            ),
            "sides-disagree",
        ),
    ]);
}

const SQLALCHEMY_HEAD: &str = "import datetime, decimal, enum, uuid
from typing import *
import sqlalchemy as sa
from sqlalchemy.orm import *
from sqlalchemy.dialects import postgresql

class Base(DeclarativeBase): pass

class Status(enum.Enum):
    OPEN = 'open'
    SHUT = 'shut'

class Quay(Base):
    __tablename__ = 'quays'
    id: Mapped[int] = mapped_column(sa.BigInteger, primary_key=True)

class T(Base):
    __tablename__ = 't'
    id = sa.Column(sa.Integer, primary_key=True)
    ";

const SQLALCHEMY: &[(&str, &[&str])] = &[
    (
        "a: Mapped[str]",
        &[
            "t, column a, type = \"varchar\"",
            "t, column a, nullable = \"not null\"",
            "t, column id, identity = \"sequence\"",
        ],
    ),
    (
        "a: Mapped[Optional[int]]",
        &["t, column a, nullable = \"null\"", "t, column a, optional_in_code = \"optional\""],
    ),
    (
        "a: Mapped['decimal.Decimal | None'] = mapped_column(sa.Numeric(8))",
        &["t, column a, type = \"numeric(8)\"", "t, column a, nullable = \"null\""],
    ),
    (
        "a: Mapped[Optional[int]] = mapped_column(nullable=False)",
        &["t, column a, nullable = \"not null\"", "t, column a, optional_in_code = \"optional\""],
    ),
    (
        "a = sa.Column('b', sa.String(9), server_default='x', comment='c')",
        &[
            "t, column b, attribute = \"a\"",
            "t, column b, nullable = \"null\"",
            "t, column b, default in the database = {\"literal\":\"x\"}",
            "t, column b, comment = \"c\"",
        ],
    ),
    (
        "a = sa.Column(sa.Integer, default=7, server_default=sa.text('8'))",
        &[
            "t, column a, default in the database = {\"literal\":8}",
            "t, column a, default in the application = {\"literal\":7}",
        ],
    ),
    (
        "a: Mapped[datetime.datetime] = mapped_column(onupdate=datetime.datetime.utcnow, \
         server_default=sa.func.now())",
        &[
            "t, column a, update in the application = {\"function\":\"now\"}",
            "t, column a, default in the database = {\"function\":\"now\"}",
        ],
    ),
    (
        "a: Mapped[uuid.UUID] = mapped_column(default=lambda: uuid.uuid4())",
        &["t, column a, default in the application = {\"function\":\"random-uuid\"}"],
    ),
    (
        "a: Mapped[Status]",
        &["t, column a, type = \"enum(Status)\"", "t, column a, held as = \"status\""],
    ),
    (
        "a = sa.Column(sa.Enum(Status, native_enum=False, length=9), default=Status.SHUT)",
        &[
            "t, column a, type = \"varchar(9)\"",
            "t, column a, choices = \"Status\"",
            "t, column a, default in the application = {\"literal\":\"SHUT\"}",
        ],
    ),
    (
        "a = sa.Column(sa.Enum('x', 'yy', native_enum=False, create_constraint=True, name='gate'))",
        &["t, column a, type = \"varchar(2)\"", "t, check \"a\" IN ('x', 'yy'), name = \"gate\""],
    ),
    (
        "a = sa.Column(postgresql.ARRAY(sa.String(5)), server_default='{}')",
        &[
            "t, column a, type = \"varchar(5) array\"",
            "t, column a, default in the database = {\"literal\":[]}",
        ],
    ),
    (
        "a = sa.Column(sa.JSON().with_variant(postgresql.JSONB(), 'postgresql'))",
        &["t, column a, type = \"binary json\""],
    ),
    (
        "a = sa.Column(sa.Float(10))\n    b = sa.Column(sa.Float)",
        &["t, column a, type = \"real\"", "t, column b, type = \"double precision\""],
    ),
    (
        "a = sa.Column(sa.Integer, sa.Identity(always=True))",
        &["t, column a, identity = \"always\""],
    ),
    (
        "a = sa.Column(sa.Integer, unique=True, index=True)",
        &["t, unique index a, exists = true", "!t, unique a,"],
    ),
    (
        "a = sa.Column(sa.ForeignKey('quays.id', ondelete='set null'))",
        &[
            "t, column a, type = \"bigint\"",
            "t, foreign key a, on_delete = \"set null\"",
            "t, relation a, target = \"quays\"",
            "!t, relation a, attribute",
            "!t, index a",
        ],
    ),
    (
        "a: Mapped[int] = mapped_column(sa.ForeignKey(Quay.id))\n    q: Mapped[Quay] = \
         relationship(backref=backref('ts', cascade='all, delete'))",
        &[
            "t, relation a, attribute = \"q\"",
            "t, relation a, inverse = \"ts\"",
            "t, relation a, on_delete = \"cascade\"",
            "t, relation a, kind = \"many-to-one\"",
        ],
    ),
    (
        "a: Mapped[int] = mapped_column(sa.ForeignKey('quays.id'), unique=True)\n    q: \
         Mapped[Quay] = relationship()",
        &["t, relation a, kind = \"one-to-one\""],
    ),
    (
        "a: Mapped[Optional[int]] = mapped_column(sa.ForeignKey('t.id'))\n    up: \
         Mapped[Optional['T']] = relationship(remote_side=[id], back_populates='down')\n    \
         down: Mapped[List['T']] = relationship(back_populates='up')",
        &["t, relation a, attribute = \"up\"", "t, relation a, inverse = \"down\""],
    ),
    (
        "a: Mapped[int]\n    q: Mapped[Quay] = relationship(primaryjoin='T.a == Quay.id', \
         foreign_keys='T.a')",
        &["t, foreign key a, enforced = \"application\""],
    ),
    (
        "a = sa.Column(sa.Integer)\n    __table_args__ = (sa.Index('i', a.desc(), \
         postgresql_where=a.isnot(None)), sa.UniqueConstraint('a', 'id', name='u'), \
         {'schema': 'port', 'comment': 'c'})",
        &[
            "t, index a desc where \"a\" IS NOT NULL, name = \"i\"",
            "t, unique id, a, name = \"u\"",
            "t, , namespace = \"port\"",
        ],
    ),
    (
        "version: Mapped[int]\n    __mapper_args__ = {'version_id_col': version}",
        &["t, column version, purpose = \"version\""],
    ),
    (
        "@declared_attr\n    def a(cls): return sa.Column(sa.Text)",
        &["t, column a, type = \"text\""],
    ),
];

#[test]
fn sqlalchemy_constructs() {
    for (body, wanted) in SQLALCHEMY {
        let wanted: Vec<String> = wanted
            .iter()
            .map(|fact| fact.replace("unique id, a", "unique a, id").replace("t, , n", "t, n"))
            .collect();
        check(
            "sqlalchemy",
            &format!("{SQLALCHEMY_HEAD}{body}\n"),
            Vec::new(),
            &wanted.iter().map(String::as_str).collect::<Vec<_>>(),
        );
    }
}

/// Whole files: the styles in which a project maps its tables.
const SQLALCHEMY_STYLES: &[(&str, &[&str])] = &[
    (
        "from flask_sqlalchemy import SQLAlchemy
db = SQLAlchemy()
class HTTPRequestLog(db.Model):
    id = db.Column(db.Integer, primary_key=True)
    line = db.Column(db.String(80), nullable=False)
",
        &[
            "http_request_log, column line, type = \"varchar(80)\"",
            "http_request_log, column id, identity = \"sequence\"",
        ],
    ),
    (
        "from typing import Optional
from sqlmodel import Field, SQLModel, Relationship
class Quay(SQLModel, table=True):
    id: Optional[int] = Field(default=None, primary_key=True)
    name: str = Field(max_length=40, index=True)
class Berth(SQLModel, table=True):
    id: Optional[int] = Field(default=None, primary_key=True)
    depth: float = 2.5
    quay_id: Optional[int] = Field(default=None, foreign_key='quay.id')
    quay: Optional[Quay] = Relationship()
",
        &[
            "quay, column name, type = \"varchar(40)\"",
            "quay, index name, exists = true",
            "berth, column depth, default in the application = {\"literal\":2.5}",
            "berth, column quay_id, nullable = \"null\"",
            "berth, relation quay_id, attribute = \"quay\"",
        ],
    ),
    (
        "import sqlalchemy as sa\nfrom sqlalchemy.orm import registry, relationship\n\
         r = registry()\nclass Quay: pass\nclass Berth: pass\n\
         quays = sa.Table('quays', r.metadata, sa.Column('id', sa.Integer, primary_key=True))\n\
         Berth.table = sa.Table('berths', r.metadata, sa.Column('id', sa.Integer, \
         primary_key=True), sa.Column('quay_id', sa.ForeignKey(quays.c.id)))\n\
         r.map_imperatively(Quay, quays, \
         properties={'berths': relationship(Berth, backref='quay')})\n\
         r.map_imperatively(Berth, Berth.table)\n",
        &[
            "berths, class = \"Berth\"",
            "berths, relation quay_id, attribute = \"quay\"",
            "berths, relation quay_id, inverse = \"berths\"",
        ],
    ),
    (
        "import sqlalchemy as sa
from sqlalchemy.orm import *
Base = declarative_base()
class Vessel(Base):
    __tablename__ = 'vessels'
    id = sa.Column(sa.Integer, primary_key=True)
    kind = sa.Column(sa.String(9))
    __mapper_args__ = {'polymorphic_on': kind}
class Tug(Vessel):
    pull = sa.Column(sa.Integer)
class Ferry(Vessel):
    __tablename__ = 'ferries'
    id = sa.Column(sa.ForeignKey('vessels.id'), primary_key=True)
class Raft(Vessel):
    __tablename__ = 'rafts'
    __mapper_args__ = {'concrete': True}
    id = sa.Column(sa.Integer, primary_key=True)
",
        &[
            "vessels, column pull, type = \"integer\"",
            "ferries, inherits = {\"entity\":\"harbour.Vessel\",\"how\":\"joined\"}",
            "!ferries, column id, identity",
            "rafts, column id, identity = \"sequence\"",
            "!rafts, inherits",
        ],
    ),
];

#[test]
fn sqlalchemy_styles() {
    for (text, wanted) in SQLALCHEMY_STYLES {
        check("sqlalchemy", text, Vec::new(), wanted);
    }
}
