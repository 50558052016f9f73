//! How single constructs cross into the other dialect: what is written, what is emitted, and what the account says.
//! Of what is emitted, the lines that no other construct would change are left out, and so is what every crossing loses.

use sprachbund_core::dialect::{Settings, by_id};
use sprachbund_core::fit::fit;
use sprachbund_core::reading::read;
use sprachbund_core::schema::Database;
use sprachbund_core::source::NoFiles;

/// What is written, what is emitted, the losses.
type Crossing = (&'static str, &'static str, &'static str);

/// Lines around every construct.
const FRAME: &[&str] = &[
    "",
    "@Entity('harbour_t')",
    "@PrimaryGeneratedColumn('identity')",
    "@PrimaryGeneratedColumn()",
    "class Meta:",
    "class T(models.Model):",
    "db_table = \"t\"",
    "export class T {",
    "id = models.AutoField(primary_key=True)",
    "id!: number;",
    "}",
];

/// What any crossing between the two loses.
const ALWAYS: &[&str] = &[
    "dropped: TypeORM does not validate input",
    "added: the type in the code also says what may be missing",
    "dropped: types of Django attributes do not say what may be missing",
    "added: Django also says what input must give",
    "respelled: the key's numbers come from another kind of counter",
];

fn cross(from: &str, to: &str, text: String, database: Database) -> (String, String) {
    let (from, to) = (by_id(from).expect("a dialect"), by_id(to).expect("a dialect"));
    let mut settings = Settings { database: Some(database), ..Settings::default() };
    let schema = read(vec![(format!("harbour/models.{}", from.extensions[0]), text)], from, &mut settings, &NoFiles).schema;
    (to.target_settings)(&schema, &mut settings);
    let fitted = fit(&schema, to, &settings);
    let conventions = (to.conventions)(&settings);
    let files = to.print(&fitted.schema, &conventions);
    let printed = files.iter().map(|file| file.text.as_str()).find(|text| text.contains("class T")).unwrap_or_default();
    let body = printed.lines().skip_while(|line| !line.starts_with("class T") && !line.starts_with("@Entity"));
    let lines: Vec<&str> = body.map(str::trim).filter(|line| !FRAME.contains(line)).collect();
    let losses = fitted.losses.iter().map(|loss| format!("{}: {}", loss.grade.word(), loss.reason));
    (lines.join("\n"), losses.filter(|loss| !ALWAYS.contains(&loss.as_str())).collect::<Vec<_>>().join("\n"))
}

fn check(table: &[Crossing], seen: impl Fn(&str) -> (String, String)) {
    for (text, emitted, losses) in table {
        let (found, account) = seen(text);
        assert_eq!(found, *emitted, "emitted for\n{text}");
        assert_eq!(account, *losses, "account of\n{text}");
    }
}

fn django(body: &str) -> String {
    format!("{DJANGO_HEAD}class T(models.Model):\n    {}\n", body.replace('\n', "\n    "))
}

fn typeorm(body: &str) -> String {
    format!("{TYPEORM_HEAD}@Entity()\nexport class T {{\n  @PrimaryGeneratedColumn()\n  id!: number;\n  {body}\n}}\n")
}

fn typeorm_class(text: &str) -> String {
    text.replace("ID", "@PrimaryGeneratedColumn() id!: number;")
}

#[test]
fn from_django() {
    check(DJANGO, |text| cross("django", "typeorm", django(text), Database::PostgreSql));
}

#[test]
fn from_typeorm() {
    check(TYPEORM, |text| cross("typeorm", "django", typeorm(text), Database::PostgreSql));
}

#[test]
fn from_typeorm_classes() {
    check(TYPEORM_CLASSES, |text| cross("typeorm", "django", typeorm_class(text), Database::PostgreSql));
}

#[test]
fn from_scripts() {
    check(SQL_TO_DJANGO, |text| cross("sql", "django", text.to_owned(), Database::PostgreSql));
    check(SQL_TO_TYPEORM, |text| cross("sql", "typeorm", text.to_owned(), Database::PostgreSql));
}

#[test]
fn on_sqlite() {
    check(DJANGO_ON_SQLITE, |text| cross("django", "typeorm", django(text), Database::Sqlite));
    check(TYPEORM_ON_SQLITE, |text| cross("typeorm", "django", typeorm(text), Database::Sqlite));
}

const DJANGO_HEAD: &str = "import uuid\nfrom decimal import Decimal\nfrom django.conf import settings\nfrom django.contrib.postgres.fields import ArrayField, IntegerRangeField\nfrom django.contrib.postgres.indexes import GinIndex\nfrom django.core.validators import RegexValidator\nfrom django.db import models\nfrom django.db.models import F, Q\nfrom django.db.models.functions import Lower, Now\n\n\n";

const TYPEORM_HEAD: &str = "import { Column, Entity } from 'typeorm';\n\nclass Position {\n  @Column('float') latitude!: number;\n}\n\n";

const DJANGO: &[Crossing] = &[
    ("a = models.CharField(max_length=24)", "@Column({ length: 24 })\na!: string;", ""),
    (
        "a = models.CharField(max_length=24, null=True, blank=True)",
        "@Column({ type: 'varchar', length: 24, nullable: true })\na!: string | null;",
        "",
    ),
    ("a = models.CharField(max_length=24, default='x')", "@Column({ length: 24 })\na: string = 'x';", ""),
    ("a = models.CharField(max_length=24, db_default='x')", "@Column({ length: 24, default: 'x' })\na!: string;", ""),
    (
        "a = models.CharField(max_length=24, unique=True)",
        "@Column({ length: 24, unique: true })\na!: string;",
        "moved: TypeORM cannot say an operator class of an index",
    ),
    (
        "a = models.CharField(max_length=24, db_index=True)",
        "@Index()\n@Column({ length: 24 })\na!: string;",
        "moved: TypeORM cannot say an operator class of an index",
    ),
    (
        "a = models.CharField(max_length=24, db_column='aa', db_comment='depth')",
        "@Column({ length: 24, name: 'aa', comment: 'depth' })\na!: string;",
        "",
    ),
    ("a = models.CharField(max_length=24, db_collation='C')", "@Column({ length: 24, collation: 'C' })\na!: string;", ""),
    (
        "a = models.CharField(max_length=5, choices=[('x', 'X'), ('y', 'Y')])",
        "@Column({ length: 5 })\na!: 'x' | 'y';",
        "dropped: members of an enumeration have no texts to show",
    ),
    ("a = models.CharField(max_length=24, validators=[RegexValidator('^[A-Z]+$')])", "@Column({ length: 24 })\na!: string;", ""),
    (
        "a = models.CharField(max_length=24, editable=False, help_text='seen by the pilot')",
        "@Column({ length: 24 })\na!: string;",
        "dropped: `editable` has no meaning outside its own framework\ndropped: `help_text` has no meaning outside its own framework",
    ),
    (
        "a = models.CharField(max_length=24, unique_for_date='d')\nd = models.DateField()",
        "@Column({ length: 24 })\na!: string;\n@Column({ type: 'date' })\nd!: string;",
        "dropped: `unique_for_date` has no meaning outside its own framework",
    ),
    ("a = models.TextField()", "@Column({ type: 'text' })\na!: string;", ""),
    (
        "a = models.SlugField()",
        "@Index()\n@Column({ length: 50 })\na!: string;",
        "dropped: TypeORM does not check text formats\nmoved: TypeORM cannot say an operator class of an index",
    ),
    ("a = models.EmailField()", "@Column({ length: 254 })\na!: string;", "dropped: TypeORM does not check text formats"),
    ("a = models.URLField()", "@Column({ length: 200 })\na!: string;", "dropped: TypeORM does not check text formats"),
    ("a = models.IntegerField(default=3)", "@Column()\na: number = 3;", ""),
    ("a = models.SmallIntegerField()", "@Column({ type: 'smallint' })\na!: number;", ""),
    ("a = models.BigIntegerField()", "@Column({ type: 'bigint' })\na!: string;", ""),
    (
        "a = models.PositiveIntegerField()",
        "@Check('\"a\" >= 0')\n@Column()\na!: number;",
        "respelled: TypeORM cannot say `unsigned integer` on this server",
    ),
    ("a = models.FloatField()", "@Column({ type: 'double precision' })\na!: number;", ""),
    (
        "a = models.DecimalField(max_digits=7, decimal_places=2, default=Decimal('0.5'))",
        "@Column({ type: 'numeric', precision: 7, scale: 2 })\na: string = '0.5';",
        "",
    ),
    ("a = models.BooleanField(default=False)", "@Column()\na: boolean = false;", ""),
    (
        "a = models.DateField(auto_now_add=True)",
        "@CreateDateColumn({ type: 'date' })\na!: string;",
        "strengthened: TypeORM fills in times of creation and update in its own way",
    ),
    (
        "a = models.DateTimeField(auto_now_add=True)",
        "@CreateDateColumn({ type: 'timestamptz' })\na!: Date;",
        "strengthened: TypeORM fills in times of creation and update in its own way",
    ),
    (
        "a = models.DateTimeField(auto_now=True)",
        "@UpdateDateColumn({ type: 'timestamptz' })\na!: Date;",
        "strengthened: TypeORM fills in times of creation and update in its own way",
    ),
    (
        "a = models.DateTimeField(db_default=Now())",
        "@Column({ type: 'timestamptz', default: () => 'statement_timestamp()' })\na!: Date;",
        "",
    ),
    ("a = models.TimeField()", "@Column({ type: 'time' })\na!: string;", ""),
    ("a = models.DurationField()", "@Column({ type: 'interval' })\na!: string;", ""),
    (
        "a = models.UUIDField(default=uuid.uuid4, editable=False)",
        "@Column({ type: 'uuid' })\na: string = randomUUID();",
        "dropped: `editable` has no meaning outside its own framework",
    ),
    ("a = models.UUIDField(primary_key=True, default=uuid.uuid4)", "@PrimaryColumn({ type: 'uuid' })\na: string = randomUUID();", ""),
    ("a = models.BinaryField()", "@Column({ type: 'bytea' })\na!: Buffer;", ""),
    ("a = models.JSONField(default=dict)", "@Column({ type: 'jsonb' })\na: unknown = {};", ""),
    ("a = models.GenericIPAddressField()", "@Column({ type: 'inet' })\na!: string;", ""),
    (
        "a = models.FileField(upload_to='plans')",
        "@Column({ length: 100 })\na!: string;",
        "dropped: TypeORM does not check text formats\ndropped: `upload_to` has no meaning outside its own framework",
    ),
    ("a = ArrayField(models.IntegerField())", "@Column({ type: 'integer', array: true })\na!: number[];", ""),
    ("a = IntegerRangeField()", "@Column({ type: 'int4range' })\na!: string;", ""),
    (
        "a = models.IntegerField()\nb = models.GeneratedField(expression=F('a') * 2, output_field=models.IntegerField(), db_persist=True)",
        "@Column()\na!: number;\n@Column({ type: 'integer', nullable: true, asExpression: '\"a\" * 2', generatedType: 'STORED' })\nb!: number | null;",
        "",
    ),
    (
        "up = models.ForeignKey('self', models.CASCADE)",
        "@Index()\n@ManyToOne(() => T, (t) => t.ts, {\nnullable: false,\nonDelete: 'CASCADE',\ndeferrable: 'INITIALLY DEFERRED',\n})\n@JoinColumn({ name: 'up_id' })\nup!: T;\n@OneToMany(() => T, (t) => t.up)\nts!: T[];",
        "strengthened: on deletion the application acted (cascade)",
    ),
    (
        "up = models.ForeignKey('self', models.CASCADE, related_name='downs')",
        "@Index()\n@ManyToOne(() => T, (t) => t.downs, {\nnullable: false,\nonDelete: 'CASCADE',\ndeferrable: 'INITIALLY DEFERRED',\n})\n@JoinColumn({ name: 'up_id' })\nup!: T;\n@OneToMany(() => T, (t) => t.up)\ndowns!: T[];",
        "strengthened: on deletion the application acted (cascade)",
    ),
    (
        "up = models.ForeignKey('self', models.PROTECT, db_index=False, related_name='+')",
        "@ManyToOne(() => T, { nullable: false, onDelete: 'RESTRICT', deferrable: 'INITIALLY DEFERRED' })\n@JoinColumn({ name: 'up_id' })\nup!: T;",
        "strengthened: on deletion the application acted (protect)",
    ),
    (
        "up = models.ForeignKey('self', models.SET_NULL, null=True, related_name='+')",
        "@Index()\n@ManyToOne(() => T, { onDelete: 'SET NULL', deferrable: 'INITIALLY DEFERRED' })\n@JoinColumn({ name: 'up_id' })\nup!: T | null;",
        "strengthened: on deletion the application acted (set null)",
    ),
    (
        "up = models.ForeignKey('self', models.DO_NOTHING, related_name='+')",
        "@Index()\n@ManyToOne(() => T, { nullable: false, deferrable: 'INITIALLY DEFERRED' })\n@JoinColumn({ name: 'up_id' })\nup!: T;",
        "respelled: on deletion the application acted (no action)",
    ),
    (
        "up = models.ForeignKey('self', models.CASCADE, db_constraint=False, related_name='+')",
        "@Index()\n@ManyToOne(() => T, {\nnullable: false,\ndeferrable: 'INITIALLY DEFERRED',\ncreateForeignKeyConstraints: false,\n})\n@JoinColumn({ name: 'up_id' })\nup!: T;",
        "dropped: the application no longer acts on deletion, and no foreign key does (cascade)",
    ),
    (
        "up = models.ForeignKey('self', models.CASCADE, to_field='a', related_name='+')\na = models.CharField(max_length=4, unique=True)",
        "@Index()\n@ManyToOne(() => T, { nullable: false, onDelete: 'CASCADE', deferrable: 'INITIALLY DEFERRED' })\n@JoinColumn({ name: 'up_id', referencedColumnName: 'a' })\nup!: T;\n@Column({ length: 4, unique: true })\na!: string;",
        "moved: TypeORM cannot say an operator class of an index\nstrengthened: on deletion the application acted (cascade)",
    ),
    (
        "up = models.OneToOneField('self', models.CASCADE, related_name='+')",
        "@OneToOne(() => T, { nullable: false, onDelete: 'CASCADE', deferrable: 'INITIALLY DEFERRED' })\n@JoinColumn({ name: 'up_id' })\nup!: T;",
        "strengthened: on deletion the application acted (cascade)",
    ),
    (
        "near = models.ManyToManyField('self')",
        "@OneToMany(() => TNear, (tNear) => tNear.fromT)\ntNearsFromT!: TNear[];\n@OneToMany(() => TNear, (tNear) => tNear.toT)\ntNearsToT!: TNear[];",
        "added: the join table `harbour_t_near` has a shape that TypeORM would not give it\nstrengthened: on deletion the application acted (cascade)\nrespelled: TypeORM joins two tables only by a join table of its own shape",
    ),
    (
        "who = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name='+')",
        "@Index()\n@ManyToOne(() => User, { nullable: false, onDelete: 'CASCADE', deferrable: 'INITIALLY DEFERRED' })\n@JoinColumn({ name: 'who_id' })\nwho!: User;",
        "strengthened: on deletion the application acted (cascade)\nrespelled: this class belongs to a package of the source framework that TypeORM does not have",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    db_table = 'tbl'\n    db_table_comment = 'where ships lie'",
        "@Entity('tbl', { comment: 'where ships lie' })\n@Column()\na!: number;",
        "",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    ordering = ['-a']\n    verbose_name = 'pier'",
        "@Entity('harbour_t', { orderBy: { a: 'DESC' } })\n@Column()\na!: number;",
        "dropped: `verbose_name` has no meaning outside its own framework",
    ),
    (
        "a = models.IntegerField()\nb = models.IntegerField()\nclass Meta:\n    unique_together = [('a', 'b')]",
        "@Unique(['a', 'b'])\n@Column()\na!: number;\n@Column()\nb!: number;",
        "",
    ),
    (
        "a = models.IntegerField()\nb = models.IntegerField()\nclass Meta:\n    indexes = [models.Index(fields=['a', '-b'], name='ab')]",
        "@Column()\na!: number;\n@Column()\nb!: number;",
        "moved: TypeORM cannot say a descending key of an index",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    indexes = [models.Index(fields=['a'], name='some', condition=Q(a__gt=1))]",
        "@Index('some', ['a'], { where: '\"a\" > 1' })\n@Column()\na!: number;",
        "",
    ),
    (
        "a = models.TextField()\nclass Meta:\n    indexes = [models.Index(Lower('a'), name='low')]",
        "@Column({ type: 'text' })\na!: string;",
        "moved: TypeORM cannot say an index over an expression",
    ),
    (
        "a = models.TextField()\nb = models.IntegerField()\nclass Meta:\n    indexes = [models.Index(fields=['a'], name='inc', include=['b'])]",
        "@Column({ type: 'text' })\na!: string;\n@Column()\nb!: number;",
        "moved: TypeORM cannot say further columns of an index",
    ),
    (
        "a = models.TextField()\nclass Meta:\n    indexes = [models.Index(fields=['a'], name='ops', opclasses=['text_pattern_ops'])]",
        "@Column({ type: 'text' })\na!: string;",
        "moved: TypeORM cannot say an operator class of an index",
    ),
    (
        "a = models.JSONField()\nclass Meta:\n    indexes = [GinIndex(fields=['a'], name='gin')]",
        "@Column({ type: 'jsonb' })\na!: unknown;",
        "moved: TypeORM cannot say an access method of an index",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    constraints = [models.UniqueConstraint(fields=['a'], name='once')]",
        "@Unique('once', ['a'])\n@Column()\na!: number;",
        "",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    constraints = [models.UniqueConstraint(fields=['a'], name='once', condition=Q(a__gte=0))]",
        "@Index('once', ['a'], { unique: true, where: '\"a\" >= 0' })\n@Column()\na!: number;",
        "",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    constraints = [models.UniqueConstraint(fields=['a'], name='late', deferrable=models.Deferrable.DEFERRED)]",
        "@Unique('late', ['a'], { deferrable: 'INITIALLY DEFERRED' })\n@Column()\na!: number;",
        "",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    constraints = [models.CheckConstraint(condition=Q(a__gte=0), name='pos')]",
        "@Check('pos', '\"a\" >= 0')\n@Column()\na!: number;",
        "",
    ),
    (
        "a = models.CharField(max_length=4)\ndef __str__(self):\n    return self.a",
        "@Column({ length: 4 })\na!: string;",
        "dropped: the display text of a record has no place in an entity",
    ),
];

const TYPEORM: &[Crossing] = &[
    ("@Column() a!: string;", "a = models.CharField()", ""),
    ("@Column({ length: 24 }) a!: string;", "a = models.CharField(max_length=24)", ""),
    ("@Column({ type: 'varchar', nullable: true }) a!: string | null;", "a = models.CharField(null=True, blank=True)", ""),
    ("@Column({ default: 'x', length: 4 }) a!: string;", r#"a = models.CharField(max_length=4, db_default="x")"#, ""),
    ("@Column({ length: 4 }) a: string = 'x';", r#"a = models.CharField(max_length=4, default="x")"#, ""),
    (
        "@Column({ unique: true, length: 4 }) a!: string;",
        "a = models.CharField(max_length=4, unique=True)",
        "added: an indexed text gets a second index for patterns",
    ),
    (
        "@Index() @Column({ length: 4 }) a!: string;",
        "a = models.CharField(max_length=4, db_index=True)",
        "added: an indexed text gets a second index for patterns",
    ),
    (
        "@Column({ name: 'aa', length: 4, comment: 'depth' }) a!: string;",
        r#"a = models.CharField(max_length=4, db_column="aa", db_comment="depth")"#,
        "",
    ),
    ("@Column({ length: 4, collation: 'C' }) a!: string;", r#"a = models.CharField(max_length=4, db_collation="C")"#, ""),
    (
        "@Column({ length: 4, select: false }) a!: string;",
        "a = models.CharField(max_length=4)",
        "dropped: `select` has no meaning outside its own framework",
    ),
    ("@Column({ length: 4 }) a?: string;", "a = models.CharField(max_length=4)", ""),
    ("@Column('text') a!: string;", "a = models.TextField()", ""),
    ("@Column() a!: number;", "a = models.IntegerField()", ""),
    ("@Column('smallint') a!: number;", "a = models.SmallIntegerField()", ""),
    ("@Column('bigint') a!: string;", "a = models.BigIntegerField()", ""),
    ("@Column('real') a!: number;", "a = models.FloatField()", "strengthened: Django cannot say `real` on this server"),
    ("@Column('double precision') a!: number;", "a = models.FloatField()", ""),
    ("@Column('decimal', { precision: 7, scale: 2 }) a!: string;", "a = models.DecimalField(max_digits=7, decimal_places=2)", ""),
    ("@Column() a!: boolean;", "a = models.BooleanField()", ""),
    ("@Column('date') a!: string;", "a = models.DateField()", ""),
    ("@Column('timestamp') a!: Date;", "a = models.DateTimeField()", "respelled: Django cannot say `timestamp` on this server"),
    ("@Column('timestamptz') a!: Date;", "a = models.DateTimeField()", ""),
    (
        "@Column('timestamptz', { precision: 3 }) a!: Date;",
        "a = models.DateTimeField()",
        "strengthened: Django cannot say `timestamp(3) with time zone` on this server",
    ),
    ("@Column('time') a!: string;", "a = models.TimeField()", ""),
    ("@Column('interval') a!: unknown;", "a = models.DurationField()", ""),
    ("@Column('uuid') a!: string;", "a = models.UUIDField()", ""),
    ("@Column('bytea') a!: Buffer;", "a = models.BinaryField()", ""),
    ("@Column('json') a!: unknown;", "a = models.JSONField()", "respelled: Django cannot say `json` on this server"),
    ("@Column('jsonb', { default: {} }) a!: unknown;", "a = models.JSONField(db_default={})", ""),
    ("@Column('inet') a!: string;", "a = models.GenericIPAddressField()", ""),
    ("@Column('int4range') a!: string;", "a = IntegerRangeField()", ""),
    ("@Column('citext') a!: string;", "a = models.TextField()", "weakened: Django cannot say `case-folded text` on this server"),
    ("@Column('money') a!: string;", "a = models.TextField()", "weakened: Django cannot say `native(money)` on this server"),
    ("@Column('tsvector') a!: string;", "a = SearchVectorField()", ""),
    (
        "@Column('char', { length: 2 }) a!: string;",
        "a = models.CharField(max_length=2)",
        "respelled: Django cannot say `char(2)` on this server",
    ),
    ("@Column('int', { array: true }) a!: number[];", "a = ArrayField(models.IntegerField())", ""),
    ("@Column('simple-array') a!: string[];", "a = models.TextField()", "dropped: Django does not check text formats"),
    ("@Column('simple-json') a!: unknown;", "a = models.TextField()", "dropped: Django does not check text formats"),
    (
        "@Column({ type: 'enum', enum: ['x', 'y'], default: 'x' }) a!: string;",
        r#"a = models.CharField(max_length=16, db_default="x", choices=[("x", "x"), ("y", "y")])"#,
        "weakened: Django has no enumeration types of the database\nadded: choices need a text to show",
    ),
    (
        "@Column({ type: 'int', asExpression: '1 + 1', generatedType: 'STORED' }) a!: number;",
        "a = models.GeneratedField(\nexpression=models.Value(1) + 1,\noutput_field=models.IntegerField(),\ndb_persist=True,\n)",
        "weakened: Django makes every generated column nullable",
    ),
    (
        "@Column({ default: () => 'now()' }) a!: Date;",
        "a = models.DateTimeField(db_default=TransactionNow())",
        "respelled: Django cannot say `timestamp` on this server",
    ),
    (
        r#"@Column({ type: 'text', default: () => "md5('x')" }) a!: string;"#,
        r#"a = models.TextField(db_default=RawSQL("MD5('x')", ()))"#,
        "",
    ),
    (
        "@CreateDateColumn() a!: Date;",
        "a = models.DateTimeField(auto_now_add=True, db_default=TransactionNow())",
        "added: Django fills in times of creation and update in its own way\nrespelled: Django cannot say `timestamp` on this server",
    ),
    (
        "@UpdateDateColumn() a!: Date;",
        "a = models.DateTimeField(auto_now=True, db_default=TransactionNow())",
        "added: Django fills in times of creation and update in its own way\nrespelled: Django cannot say `timestamp` on this server",
    ),
    (
        "@UpdateDateColumn({ type: 'timestamptz' }) a!: Date;",
        "a = models.DateTimeField(auto_now=True, db_default=TransactionNow())",
        "added: Django fills in times of creation and update in its own way",
    ),
    (
        "@DeleteDateColumn() a!: Date | null;",
        "a = models.DateTimeField(null=True, blank=True)",
        "weakened: Django does not leave out records that are marked as deleted\nweakened: Django does not keep such a column by itself\nrespelled: Django cannot say `timestamp` on this server",
    ),
    ("@VersionColumn() a!: number;", "a = models.IntegerField()", "weakened: Django does not keep such a column by itself"),
    ("@Column(() => Position) at!: Position;", r#"at_latitude = models.FloatField(db_column="atLatitude")"#, ""),
    (
        "@PrimaryColumn() b!: number;",
        "pk = models.CompositePrimaryKey(\"id\", \"b\")\nid = models.IntegerField()\nb = models.IntegerField()",
        "dropped: Django numbers only a key of one column",
    ),
    (
        "@ManyToOne(() => T) up!: T | null;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.DO_NOTHING,\nrelated_name=\"+\",\nnull=True,\nblank=True,\ndb_index=False,\ndb_column=\"upId\",\n)",
        "added: Django says for each relation what the application does on deletion\nadded: Django has every foreign key checked at commit",
    ),
    (
        "@ManyToOne(() => T, { nullable: false, onDelete: 'CASCADE' }) up!: T;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.CASCADE,\nrelated_name=\"+\",\ndb_index=False,\ndb_column=\"upId\",\n)",
        "weakened: Django acts on deletion in the application, not in the database\nadded: Django has every foreign key checked at commit",
    ),
    (
        "@ManyToOne(() => T, { onDelete: 'SET NULL' }) up!: T | null;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.SET_NULL,\nrelated_name=\"+\",\nnull=True,\nblank=True,\ndb_index=False,\ndb_column=\"upId\",\n)",
        "weakened: Django acts on deletion in the application, not in the database\nadded: Django has every foreign key checked at commit",
    ),
    (
        "@ManyToOne(() => T, { onDelete: 'RESTRICT', onUpdate: 'CASCADE' }) up!: T | null;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.RESTRICT,\nrelated_name=\"+\",\nnull=True,\nblank=True,\ndb_index=False,\ndb_column=\"upId\",\n)",
        "weakened: Django acts on deletion in the application, not in the database\nadded: Django has every foreign key checked at commit",
    ),
    (
        "@ManyToOne(() => T, { createForeignKeyConstraints: false }) up!: T | null;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.DO_NOTHING,\nrelated_name=\"+\",\ndb_constraint=False,\nnull=True,\nblank=True,\ndb_index=False,\ndb_column=\"upId\",\n)",
        "added: Django says for each relation what the application does on deletion\nadded: Django has every foreign key checked at commit",
    ),
    (
        "@ManyToOne(() => T, { deferrable: 'INITIALLY DEFERRED' }) up!: T | null;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.DO_NOTHING,\nrelated_name=\"+\",\nnull=True,\nblank=True,\ndb_index=False,\ndb_column=\"upId\",\n)",
        "added: Django says for each relation what the application does on deletion",
    ),
    (
        "@Index() @ManyToOne(() => T) up!: T | null;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.DO_NOTHING,\nrelated_name=\"+\",\nnull=True,\nblank=True,\ndb_column=\"upId\",\n)",
        "added: Django says for each relation what the application does on deletion\nadded: Django has every foreign key checked at commit",
    ),
    (
        "@ManyToOne(() => T, (t) => t.downs) up!: T | null;\n@OneToMany(() => T, (t) => t.up) downs!: T[];",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.DO_NOTHING,\nrelated_name=\"downs\",\nnull=True,\nblank=True,\ndb_index=False,\ndb_column=\"upId\",\n)",
        "added: Django says for each relation what the application does on deletion\nadded: Django has every foreign key checked at commit",
    ),
    (
        "@OneToOne(() => T) @JoinColumn() twin!: T | null;",
        "twin = models.OneToOneField(\n\"T\",\non_delete=models.DO_NOTHING,\nrelated_name=\"+\",\nnull=True,\nblank=True,\ndb_column=\"twinId\",\n)",
        "added: Django says for each relation what the application does on deletion\nadded: Django has every foreign key checked at commit",
    ),
    (
        "@ManyToMany(() => T) @JoinTable() near!: T[];",
        "near = models.ManyToManyField(\n\"T\",\nrelated_name=\"+\",\nthrough=\"TNear\",\nsymmetrical=False,\nthrough_fields=[\"from_t\", \"to_t\"],\n)\nclass TNear(models.Model):\npk = models.CompositePrimaryKey(\"from_t_id\", \"to_t_id\")\nfrom_t = models.ForeignKey(\nT,\non_delete=models.CASCADE,\nrelated_name=\"t_nears_from_t\",\ndb_column=\"tId_1\",\n)\nto_t = models.ForeignKey(\nT,\non_delete=models.CASCADE,\nrelated_name=\"t_nears_to_t\",\ndb_column=\"tId_2\",\n)\ndb_table = \"t_near_t\"",
        "weakened: Django acts on deletion in the application, not in the database\nadded: the join table `t_near_t` has a shape that Django would not give it\nadded: a join to itself by a class names its two references\nadded: Django has every foreign key checked at commit",
    ),
    (
        "@Column({ type: 'int' }) upId!: number;\n@ManyToOne(() => T) @JoinColumn({ name: 'upId' }) up!: T;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.DO_NOTHING,\nrelated_name=\"+\",\ndb_index=False,\ndb_column=\"upId\",\n)",
        "added: Django says for each relation what the application does on deletion\nadded: Django has every foreign key checked at commit",
    ),
];

const TYPEORM_CLASSES: &[Crossing] = &[
    ("@Entity('x', { schema: 's' })\nclass T { ID }", r#"db_table = "x""#, "dropped: Django cannot put a table into a named schema"),
    ("@Entity({ comment: 'c', orderBy: { id: 'DESC' } })\nclass T { ID }", "db_table_comment = \"c\"\nordering = [\"-id\"]", ""),
    (
        "@Entity()\n@Unique('u', ['a', 'id'])\nclass T { ID @Column() a!: number; }",
        "a = models.IntegerField()\nconstraints = [models.UniqueConstraint(fields=[\"a\", \"id\"], name=\"u\")]",
        "",
    ),
    (
        "@Entity()\n@Unique('u', ['a'], { deferrable: 'INITIALLY DEFERRED' })\nclass T { ID @Column() a!: number; }",
        "a = models.IntegerField()\nconstraints = [\nmodels.UniqueConstraint(fields=[\"a\"], name=\"u\", deferrable=models.Deferrable.DEFERRED),\n]",
        "",
    ),
    (
        "@Entity()\n@Check('c', '\"a\" > 1')\nclass T { ID @Column() a!: number; }",
        "a = models.IntegerField()\nconstraints = [models.CheckConstraint(condition=models.Q(a__gt=1), name=\"c\")]",
        "",
    ),
    (
        "@Entity()\n@Check('c', 'length(\"a\"::text) > 1 AND \"a\" ~ \\'x\\'')\nclass T { ID @Column() a!: string; }",
        "a = models.CharField()\nconstraints = [\nmodels.CheckConstraint(condition=RawSQL(\"length(\\\"a\\\"::text) > 1 AND \\\"a\\\" ~ 'x'\", (), output_field=models.BooleanField()), name=\"c\"),\n]",
        "",
    ),
    (
        "@Entity()\n@Exclusion('e', 'USING gist (\"a\" WITH =)')\nclass T { ID @Column() a!: number; }",
        "a = models.IntegerField()",
        "moved: an exclusion constraint is written as SQL",
    ),
    (
        "@Entity()\n@Index('ab', ['a', 'id'], { unique: true })\nclass T { ID @Column() a!: number; }",
        "a = models.IntegerField()\nconstraints = [models.UniqueConstraint(fields=[\"a\", \"id\"], name=\"ab\")]",
        "respelled: Django makes unique constraints, not plain unique indexes",
    ),
    (
        "@Entity()\n@Index('some', ['a'], { where: '\"a\" > 1' })\nclass T { ID @Column() a!: number; }",
        "a = models.IntegerField()\nindexes = [models.Index(fields=[\"a\"], condition=models.Q(a__gt=1), name=\"some\")]",
        "",
    ),
    (
        "@Entity()\n@Index('sp', ['a'], { spatial: true })\nclass T { ID @Column() a!: number; }",
        "a = models.IntegerField()\nindexes = [GistIndex(fields=[\"a\"], name=\"sp\")]",
        "",
    ),
    ("@Entity()\nclass T { @Column() a!: number; }", "a = models.IntegerField()", "weakened: Django has no class without a key"),
    (
        "@ViewEntity({ expression: 'SELECT 1 AS a' })\nclass T { @ViewColumn() a!: number; }",
        "a = models.IntegerField()",
        "dropped: `expression` has no meaning outside its own framework",
    ),
    (
        "@Entity()\n@TableInheritance({ column: { name: 'kind', type: 'varchar' } })\nclass T { ID }\n@ChildEntity()\nclass Tug extends T { @Column() pull!: number; }",
        "pull = models.IntegerField(null=True, blank=True)\nkind = models.CharField(db_index=True)\nclass Tug(T):\nproxy = True",
        "dropped: `discriminator` has no meaning outside its own framework\ndropped: `discriminator_value` has no meaning outside its own framework\nadded: an indexed text gets a second index for patterns",
    ),
];

const DJANGO_ON_SQLITE: &[Crossing] = &[
    (
        "a = models.CharField(max_length=24, db_column='aa', db_comment='depth')",
        "@Column({ length: 24, name: 'aa' })\na!: string;",
        "dropped: the comment of a column cannot be said",
    ),
    (
        "a = models.CharField(max_length=24, db_collation='C')",
        "@Column({ length: 24 })\na!: string;",
        "weakened: the collation of a column cannot be said",
    ),
    (
        "a = models.DecimalField(max_digits=7, decimal_places=2, default=Decimal('0.5'))",
        "@Column({ type: 'decimal', precision: 7, scale: 2 })\na: string = '0.5';",
        "respelled: SQLite keeps the name that a framework gives to a type",
    ),
    (
        "a = models.DateTimeField(db_default=Now())",
        "@Column({ default: () => 'CURRENT_TIMESTAMP' })\na!: Date;",
        "weakened: TypeORM cannot say `timestamp with time zone` on this server\nrespelled: this server has no such function",
    ),
    ("a = models.DurationField()", "@Column({ type: 'bigint' })\na!: string;", "weakened: TypeORM cannot say `interval` on this server"),
    (
        "a = models.UUIDField(default=uuid.uuid4, editable=False)",
        "@Column({ type: 'uuid' })\na: string = randomUUID();",
        "dropped: `editable` has no meaning outside its own framework\nrespelled: SQLite keeps the name that a framework gives to a type",
    ),
    (
        "a = models.JSONField(default=dict)",
        "@Check('JSON_VALID(\"a\")')\n@Column({ type: 'simple-json' })\na: unknown = {};",
        "respelled: TypeORM cannot say `binary json` on this server",
    ),
    (
        "up = models.ForeignKey('self', models.CASCADE)",
        "@Index()\n@ManyToOne(() => T, (t) => t.ts, {\nnullable: false,\nonDelete: 'CASCADE',\ndeferrable: 'INITIALLY DEFERRED',\n})\n@JoinColumn({ name: 'up_id' })\nup!: T;\n@OneToMany(() => T, (t) => t.up)\nts!: T[];",
        "strengthened: on deletion the application acted (cascade)",
    ),
    (
        "up = models.ForeignKey('self', models.DO_NOTHING, related_name='+')",
        "@Index()\n@ManyToOne(() => T, { nullable: false, deferrable: 'INITIALLY DEFERRED' })\n@JoinColumn({ name: 'up_id' })\nup!: T;",
        "respelled: on deletion the application acted (no action)",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    indexes = [models.Index(fields=['a'], name='some', condition=Q(a__gt=1))]",
        "@Index('some', ['a'], { where: '\"a\" > 1' })\n@Column()\na!: number;",
        "",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    constraints = [models.CheckConstraint(condition=Q(a__gte=0), name='pos')]",
        "@Check('pos', '\"a\" >= 0')\n@Column()\na!: number;",
        "",
    ),
];

const TYPEORM_ON_SQLITE: &[Crossing] = &[
    ("@Column('bigint') a!: string;", "a = models.BigIntegerField()", ""),
    (
        "@Column('decimal', { precision: 7, scale: 2 }) a!: string;",
        "a = models.DecimalField(max_digits=7, decimal_places=2)",
        "respelled: SQLite keeps the name that a framework gives to a type",
    ),
    ("@Column() a!: boolean;", "a = models.BooleanField()", "respelled: SQLite keeps the name that a framework gives to a type"),
    ("@Column('date') a!: string;", "a = models.DateField()", ""),
    (
        "@Column('simple-json') a!: unknown;",
        "a = models.JSONField()",
        "added: the framework checks such a column by itself\nrespelled: Django cannot say `json` on this server",
    ),
    (
        "@Column({ default: () => 'now()' }) a!: Date;",
        "a = models.DateTimeField(db_default=Now())",
        "respelled: Django cannot say `timestamp` on this server\nrespelled: this server has no such function",
    ),
    (
        "@CreateDateColumn() a!: Date;",
        "a = models.DateTimeField(auto_now_add=True, db_default=Now())",
        "added: Django fills in times of creation and update in its own way\nrespelled: Django cannot say `timestamp` on this server\nrespelled: this server has no such function",
    ),
    ("@VersionColumn() a!: number;", "a = models.IntegerField()", "weakened: Django does not keep such a column by itself"),
    (
        "@ManyToOne(() => T, { nullable: false, onDelete: 'CASCADE' }) up!: T;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.CASCADE,\nrelated_name=\"+\",\ndb_index=False,\ndb_column=\"upId\",\n)",
        "weakened: Django acts on deletion in the application, not in the database\nadded: Django has every foreign key checked at commit",
    ),
];

const SQL_TO_DJANGO: &[Crossing] = &[
    ("CREATE TABLE t (id serial PRIMARY KEY, a varchar(24) NOT NULL)", "a = models.CharField(max_length=24)", ""),
    ("CREATE TABLE t (id bigserial PRIMARY KEY, a text)", "a = models.TextField(null=True, blank=True)", ""),
    (
        "CREATE TABLE t (id bigint GENERATED BY DEFAULT AS IDENTITY PRIMARY KEY, a int DEFAULT 3)",
        "a = models.IntegerField(null=True, blank=True, db_default=3)",
        "",
    ),
    (
        "CREATE TABLE t (id uuid PRIMARY KEY DEFAULT gen_random_uuid(), a boolean NOT NULL DEFAULT false)",
        "id = models.UUIDField(primary_key=True, db_default=RandomUUID())\na = models.BooleanField(db_default=False)",
        "",
    ),
    (
        "CREATE TABLE t (a int, b int, PRIMARY KEY (a, b))",
        "pk = models.CompositePrimaryKey(\"a\", \"b\")\na = models.IntegerField()\nb = models.IntegerField()",
        "",
    ),
    ("CREATE TABLE t (a int)", "a = models.IntegerField(null=True, blank=True)", "weakened: Django has no class without a key"),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a numeric(7,2) DEFAULT 0.5)",
        "a = models.DecimalField(\nmax_digits=7,\ndecimal_places=2,\nnull=True,\nblank=True,\ndb_default=Decimal(\"0.5\"),\n)",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, created_at timestamptz NOT NULL DEFAULT now())",
        "created_at = models.DateTimeField(auto_now_add=True, db_default=TransactionNow())",
        "added: Django fills in times of creation and update in its own way",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, updated_at timestamptz NOT NULL DEFAULT now())",
        "updated_at = models.DateTimeField(auto_now=True, db_default=TransactionNow())",
        "added: Django fills in times of creation and update in its own way\nrespelled: the time of an update is taken in another way",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, deleted_at timestamptz)",
        "deleted_at = models.DateTimeField(null=True, blank=True)",
        "weakened: Django does not leave out records that are marked as deleted\nweakened: Django does not keep such a column by itself",
    ),
    ("CREATE TABLE t (id serial PRIMARY KEY, a jsonb NOT NULL DEFAULT '{}')", "a = models.JSONField(db_default={})", ""),
    ("CREATE TABLE t (id serial PRIMARY KEY, a int[] NOT NULL DEFAULT '{}')", "a = ArrayField(models.IntegerField(), db_default=[])", ""),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a inet, b int4range, c interval)",
        "a = models.GenericIPAddressField(null=True, blank=True)\nb = IntegerRangeField(null=True, blank=True)\nc = models.DurationField(null=True, blank=True)",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a money)",
        "a = models.TextField(null=True, blank=True)",
        "weakened: Django cannot say `native(money)` on this server",
    ),
    (
        "CREATE TYPE side AS ENUM ('port', 'star'); CREATE TABLE t (id serial PRIMARY KEY, a side NOT NULL DEFAULT 'port')",
        r#"a = models.CharField(max_length=16, db_default="port", choices=Side.choices)"#,
        "dropped: an enumeration type of the database is not made\nweakened: Django has no enumeration types of the database",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a int, b int GENERATED ALWAYS AS (a * 2) STORED)",
        "a = models.IntegerField(null=True, blank=True)\nb = models.GeneratedField(\nexpression=models.F(\"a\") * 2,\noutput_field=models.IntegerField(),\ndb_persist=True,\n)",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a varchar(9) UNIQUE)",
        "a = models.CharField(max_length=9, null=True, blank=True, unique=True)",
        "added: an indexed text gets a second index for patterns",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a int, b int, CONSTRAINT ab UNIQUE (a, b))",
        "a = models.IntegerField(null=True, blank=True)\nb = models.IntegerField(null=True, blank=True)\nconstraints = [models.UniqueConstraint(fields=[\"a\", \"b\"], name=\"ab\")]",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a int, b int, UNIQUE NULLS NOT DISTINCT (a, b))",
        "a = models.IntegerField(null=True, blank=True)\nb = models.IntegerField(null=True, blank=True)\nconstraints = [\nmodels.UniqueConstraint(fields=[\"a\", \"b\"], name=\"t_uniq1\", nulls_distinct=False),\n]",
        "added: such a unique constraint must have a name",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a int CHECK (a > 0))",
        "a = models.IntegerField(null=True, blank=True)\nconstraints = [models.CheckConstraint(condition=models.Q(a__gt=0), name=\"t_check1\")]",
        "added: a check must have a name",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a varchar(9), CONSTRAINT known CHECK (a IN ('x', 'y')))",
        "a = models.CharField(max_length=9, null=True, blank=True)\nconstraints = [models.CheckConstraint(condition=models.Q(a__in=[\"x\", \"y\"]), name=\"known\")]",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a int); CREATE INDEX i ON t (a)",
        "a = models.IntegerField(null=True, blank=True)\nindexes = [models.Index(fields=[\"a\"], name=\"i\")]",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a int); CREATE INDEX i ON t (a DESC)",
        "a = models.IntegerField(null=True, blank=True)\nindexes = [models.Index(fields=[\"-a\"], name=\"i\")]",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a int); CREATE INDEX i ON t (a) WHERE a > 1",
        "a = models.IntegerField(null=True, blank=True)\nindexes = [models.Index(fields=[\"a\"], condition=models.Q(a__gt=1), name=\"i\")]",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a text); CREATE INDEX i ON t (lower(a))",
        "a = models.TextField(null=True, blank=True)\nindexes = [models.Index(Lower(\"a\"), name=\"i\")]",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a jsonb); CREATE INDEX i ON t USING gin (a)",
        "a = models.JSONField(null=True, blank=True)\nindexes = [GinIndex(fields=[\"a\"], name=\"i\")]",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a int); COMMENT ON TABLE t IS 'ships'; COMMENT ON COLUMN t.a IS 'depth'",
        "a = models.IntegerField(null=True, blank=True, db_comment=\"depth\")\ndb_table_comment = \"ships\"",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, t_id int REFERENCES t)",
        "t = models.ForeignKey(\n\"T\",\non_delete=models.DO_NOTHING,\nrelated_name=\"t_ts\",\nnull=True,\nblank=True,\ndb_index=False,\n)",
        "added: Django says for each relation what the application does on deletion\nadded: Django has every foreign key checked at commit",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, up int NOT NULL REFERENCES t ON DELETE CASCADE)",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.CASCADE,\nrelated_name=\"up_ts\",\ndb_index=False,\ndb_column=\"up\",\n)",
        "weakened: Django acts on deletion in the application, not in the database\nadded: Django has every foreign key checked at commit",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, t_id int REFERENCES t ON DELETE SET NULL ON UPDATE CASCADE)",
        "t = models.ForeignKey(\n\"T\",\non_delete=models.SET_NULL,\nrelated_name=\"t_ts\",\nnull=True,\nblank=True,\ndb_index=False,\n)",
        "weakened: Django acts on deletion in the application, not in the database\nadded: Django has every foreign key checked at commit",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, t_id int UNIQUE REFERENCES t DEFERRABLE INITIALLY DEFERRED)",
        "t = models.OneToOneField(\n\"T\",\non_delete=models.DO_NOTHING,\nrelated_name=\"t_t\",\nnull=True,\nblank=True,\n)",
        "added: Django says for each relation what the application does on deletion",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY); CREATE TABLE q (id serial PRIMARY KEY); CREATE TABLE q_t (q_id int NOT NULL REFERENCES q ON DELETE CASCADE, t_id int NOT NULL REFERENCES t ON DELETE CASCADE, PRIMARY KEY (q_id, t_id))",
        "class Q(models.Model):\nts = models.ManyToManyField(T, related_name=\"qs\", through=\"QT\")\ndb_table = \"q\"\nclass QT(models.Model):\npk = models.CompositePrimaryKey(\"q_id\", \"t_id\")\nq = models.ForeignKey(Q, on_delete=models.CASCADE, related_name=\"q_ts\", db_index=False)\nt = models.ForeignKey(T, on_delete=models.CASCADE, related_name=\"q_ts\", db_index=False)\ndb_table = \"q_t\"",
        "weakened: Django acts on deletion in the application, not in the database\nadded: the join table `q_t` has a shape that Django would not give it\nadded: Django has every foreign key checked at commit",
    ),
    ("CREATE SCHEMA yard; CREATE TABLE yard.t (id serial PRIMARY KEY)", "", "dropped: Django cannot put a table into a named schema"),
    (
        r#"CREATE TABLE t (id serial PRIMARY KEY, "class" int, "Port Side" int, "läng" int)"#,
        "class_value = models.IntegerField(null=True, blank=True, db_column=\"class\")\nport_side = models.IntegerField(null=True, blank=True, db_column=\"Port Side\")\nläng = models.IntegerField(null=True, blank=True)",
        "",
    ),
];

const SQL_TO_TYPEORM: &[Crossing] = &[
    ("CREATE TABLE t (id serial PRIMARY KEY, a varchar(24) NOT NULL)", "@Entity()\n@Column({ length: 24 })\na!: string;", ""),
    (
        "CREATE TABLE t (id bigserial PRIMARY KEY, a text)",
        "@Entity()\n@PrimaryGeneratedColumn({ type: 'bigint' })\nid!: string;\n@Column({ type: 'text', nullable: true })\na!: string | null;",
        "",
    ),
    (
        "CREATE TABLE t (id bigint GENERATED BY DEFAULT AS IDENTITY PRIMARY KEY, a int DEFAULT 3)",
        "@Entity()\n@PrimaryGeneratedColumn('identity', { type: 'bigint' })\nid!: string;\n@Column({ type: 'integer', nullable: true, default: 3 })\na!: number | null;",
        "",
    ),
    (
        "CREATE TABLE t (id uuid PRIMARY KEY DEFAULT gen_random_uuid(), a boolean NOT NULL DEFAULT false)",
        "@Entity()\n@PrimaryGeneratedColumn('uuid')\nid!: string;\n@Column({ default: false })\na!: boolean;",
        "",
    ),
    ("CREATE TABLE t (a int, b int, PRIMARY KEY (a, b))", "@Entity()\n@PrimaryColumn()\na!: number;\n@PrimaryColumn()\nb!: number;", ""),
    (
        "CREATE TABLE t (a int)",
        "@Entity()\n@Column({ type: 'integer', nullable: true })\na!: number | null;",
        "weakened: TypeORM has no class without a key",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a numeric(7,2) DEFAULT 0.5)",
        "@Entity()\n@Column({ type: 'numeric', precision: 7, scale: 2, nullable: true, default: '0.5' })\na!: string | null;",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, created_at timestamptz NOT NULL DEFAULT now())",
        "@Entity()\n@CreateDateColumn({ type: 'timestamptz', name: 'created_at' })\ncreatedAt!: Date;",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, updated_at timestamptz NOT NULL DEFAULT now())",
        "@Entity()\n@UpdateDateColumn({ type: 'timestamptz', name: 'updated_at' })\nupdatedAt!: Date;",
        "respelled: the time of an update is taken in another way",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, deleted_at timestamptz)",
        "@Entity()\n@DeleteDateColumn({ type: 'timestamptz', name: 'deleted_at' })\ndeletedAt!: Date | null;",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a jsonb NOT NULL DEFAULT '{}')",
        "@Entity()\n@Column({ type: 'jsonb', default: {} })\na!: unknown;",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a int[] NOT NULL DEFAULT '{}')",
        "@Entity()\n@Column({ type: 'integer', array: true, default: [] })\na!: number[];",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a inet, b int4range, c interval)",
        "@Entity()\n@Column({ type: 'inet', nullable: true })\na!: string | null;\n@Column({ type: 'int4range', nullable: true })\nb!: string | null;\n@Column({ type: 'interval', nullable: true })\nc!: string | null;",
        "",
    ),
    ("CREATE TABLE t (id serial PRIMARY KEY, a money)", "@Entity()\n@Column({ type: 'money', nullable: true })\na!: string | null;", ""),
    (
        "CREATE TYPE side AS ENUM ('port', 'star'); CREATE TABLE t (id serial PRIMARY KEY, a side NOT NULL DEFAULT 'port')",
        "@Entity()\n@Column({ type: 'enum', enum: Side, enumName: 'side', default: Side.port })\na!: Side;",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a int, b int GENERATED ALWAYS AS (a * 2) STORED)",
        "@Entity()\n@Column({ type: 'integer', nullable: true })\na!: number | null;\n@Column({ type: 'integer', nullable: true, asExpression: '\"a\" * 2', generatedType: 'STORED' })\nb!: number | null;",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a varchar(9) UNIQUE)",
        "@Entity()\n@Column({ type: 'varchar', length: 9, nullable: true, unique: true })\na!: string | null;",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a int, b int, CONSTRAINT ab UNIQUE (a, b))",
        "@Entity()\n@Unique('ab', ['a', 'b'])\n@Column({ type: 'integer', nullable: true })\na!: number | null;\n@Column({ type: 'integer', nullable: true })\nb!: number | null;",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a int, b int, UNIQUE NULLS NOT DISTINCT (a, b))",
        "@Entity()\n@Column({ type: 'integer', nullable: true })\na!: number | null;\n@Column({ type: 'integer', nullable: true })\nb!: number | null;",
        "moved: TypeORM cannot say that null counts as a value",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a int CHECK (a > 0))",
        "@Entity()\n@Check('\"a\" > 0')\n@Column({ type: 'integer', nullable: true })\na!: number | null;",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a varchar(9), CONSTRAINT known CHECK (a IN ('x', 'y')))",
        "@Entity()\n@Check('known', '\"a\" IN (\\'x\\', \\'y\\')')\n@Column({ type: 'varchar', length: 9, nullable: true })\na!: string | null;",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a int); CREATE INDEX i ON t (a)",
        "@Entity()\n@Index('i', ['a'])\n@Column({ type: 'integer', nullable: true })\na!: number | null;",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a int); CREATE INDEX i ON t (a DESC)",
        "@Entity()\n@Column({ type: 'integer', nullable: true })\na!: number | null;",
        "moved: TypeORM cannot say a descending key of an index",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a int); CREATE INDEX i ON t (a) WHERE a > 1",
        "@Entity()\n@Index('i', ['a'], { where: '\"a\" > 1' })\n@Column({ type: 'integer', nullable: true })\na!: number | null;",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a text); CREATE INDEX i ON t (lower(a))",
        "@Entity()\n@Column({ type: 'text', nullable: true })\na!: string | null;",
        "moved: TypeORM cannot say an index over an expression",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a jsonb); CREATE INDEX i ON t USING gin (a)",
        "@Entity()\n@Column({ type: 'jsonb', nullable: true })\na!: unknown | null;",
        "moved: TypeORM cannot say an access method of an index",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, a int); COMMENT ON TABLE t IS 'ships'; COMMENT ON COLUMN t.a IS 'depth'",
        "@Entity({ comment: 'ships' })\n@Column({ type: 'integer', nullable: true, comment: 'depth' })\na!: number | null;",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, t_id int REFERENCES t)",
        "@Entity()\n@ManyToOne(() => T, (t) => t.tTs)\n@JoinColumn({ name: 't_id' })\nt!: T | null;\n@OneToMany(() => T, (t) => t.t)\ntTs!: T[];",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, up int NOT NULL REFERENCES t ON DELETE CASCADE)",
        "@Entity()\n@ManyToOne(() => T, (t) => t.upTs, { nullable: false, onDelete: 'CASCADE' })\n@JoinColumn({ name: 'up' })\nup!: T;\n@OneToMany(() => T, (t) => t.up)\nupTs!: T[];",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, t_id int REFERENCES t ON DELETE SET NULL ON UPDATE CASCADE)",
        "@Entity()\n@ManyToOne(() => T, (t) => t.tTs, { onDelete: 'SET NULL', onUpdate: 'CASCADE' })\n@JoinColumn({ name: 't_id' })\nt!: T | null;\n@OneToMany(() => T, (t) => t.t)\ntTs!: T[];",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY, t_id int UNIQUE REFERENCES t DEFERRABLE INITIALLY DEFERRED)",
        "@Entity()\n@OneToOne(() => T, (t) => t.tT, { deferrable: 'INITIALLY DEFERRED' })\n@JoinColumn({ name: 't_id' })\nt!: T | null;\n@OneToOne(() => T, (t) => t.t)\ntT!: T | null;",
        "",
    ),
    (
        "CREATE TABLE t (id serial PRIMARY KEY); CREATE TABLE q (id serial PRIMARY KEY); CREATE TABLE q_t (q_id int NOT NULL REFERENCES q ON DELETE CASCADE, t_id int NOT NULL REFERENCES t ON DELETE CASCADE, PRIMARY KEY (q_id, t_id))",
        "@Entity()\n@OneToMany(() => QT, (qT) => qT.t)\nqTs!: QT[];",
        "added: the join table `q_t` has a shape that TypeORM would not give it\nrespelled: TypeORM joins two tables only by a join table of its own shape",
    ),
    ("CREATE SCHEMA yard; CREATE TABLE yard.t (id serial PRIMARY KEY)", "@Entity({ schema: 'yard' })", ""),
    (
        r#"CREATE TABLE t (id serial PRIMARY KEY, "class" int, "Port Side" int, "läng" int)"#,
        "@Entity()\n@Column({ type: 'integer', nullable: true })\nclass!: number | null;\n@Column({ type: 'integer', name: 'Port Side', nullable: true })\nportSide!: number | null;\n@Column({ type: 'integer', nullable: true })\n'läng'!: number | null;",
        "",
    ),
];
