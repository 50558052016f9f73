//! Constructs that cross on SQLite.

use super::Crossing;

pub(crate) const DJANGO_ON_SQLITE: &[Crossing] = &[
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
        "weakened: TypeORM cannot say `timestamp with time zone` on this server\n\
         respelled: this server has no such function",
    ),
    (
        "a = models.DurationField()",
        "@Column({ type: 'bigint' })\na!: string;",
        "weakened: TypeORM cannot say `interval` on this server",
    ),
    (
        "a = models.UUIDField(default=uuid.uuid4, editable=False)",
        "@Column({ type: 'uuid' })\na: string = randomUUID();",
        "dropped: `editable` has no meaning outside its own framework\n\
         respelled: SQLite keeps the name that a framework gives to a type",
    ),
    (
        "a = models.JSONField(default=dict)",
        "@Check('json_valid(\"a\") OR (\"a\" IS NULL)')\n@Column({ type: 'simple-json' })\n\
         a: unknown = {};",
        "respelled: TypeORM cannot say `binary json` on this server",
    ),
    (
        "up = models.ForeignKey('self', models.CASCADE)",
        "@Index()\n@ManyToOne(() => T, (t) => t.ts, {\nnullable: false,\nonDelete: 'CASCADE',\n\
         deferrable: 'INITIALLY DEFERRED',\n})\n@JoinColumn({ name: 'up_id' })\nup!: T;\n\
         @OneToMany(() => T, (t) => t.up)\nts!: T[];",
        "strengthened: on deletion the application acted (cascade)",
    ),
    (
        "up = models.ForeignKey('self', models.DO_NOTHING, related_name='+')",
        "@Index()\n@ManyToOne(() => T, { nullable: false, deferrable: 'INITIALLY DEFERRED' })\n\
         @JoinColumn({ name: 'up_id' })\nup!: T;",
        "respelled: on deletion the application acted (no action)",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    indexes = [models.Index(fields=['a'], \
         name='some', condition=Q(a__gt=1))]",
        "@Index('some', ['a'], { where: '\"a\" > 1' })\n@Column()\na!: number;",
        "",
    ),
    (
        "a = models.IntegerField()\n\
         class Meta:\n    constraints = [models.CheckConstraint(condition=Q(a__gte=0), \
         name='pos')]",
        "@Check('pos', '\"a\" >= 0')\n@Column()\na!: number;",
        "",
    ),
];

pub(crate) const TYPEORM_ON_SQLITE: &[Crossing] = &[
    ("@Column('bigint') a!: string;", "a = models.BigIntegerField()", ""),
    (
        "@Column('decimal', { precision: 7, scale: 2 }) a!: string;",
        "a = models.DecimalField(max_digits=7, decimal_places=2)",
        "respelled: SQLite keeps the name that a framework gives to a type",
    ),
    (
        "@Column() a!: boolean;",
        "a = models.BooleanField()",
        "respelled: SQLite keeps the name that a framework gives to a type",
    ),
    ("@Column('date') a!: string;", "a = models.DateField()", ""),
    (
        "@Column('simple-json') a!: unknown;",
        "a = models.JSONField()",
        "added: the framework checks such a column by itself\n\
         respelled: Django cannot say `json` on this server",
    ),
    (
        "@Column({ default: () => 'now()' }) a!: Date;",
        "a = models.DateTimeField(db_default=Now())",
        "respelled: Django cannot say `timestamp` on this server\n\
         respelled: this server has no such function",
    ),
    (
        "@CreateDateColumn() a!: Date;",
        "a = models.DateTimeField(auto_now_add=True, db_default=Now())",
        "added: Django fills in times of creation and update in its own way\n\
         respelled: Django cannot say `timestamp` on this server\n\
         respelled: this server has no such function",
    ),
    (
        "@VersionColumn() a!: number;",
        "a = models.IntegerField()",
        "weakened: Django does not keep such a column by itself",
    ),
    (
        "@ManyToOne(() => T, { nullable: false, onDelete: 'CASCADE' }) up!: T;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.CASCADE,\nrelated_name=\"+\",\n\
         db_index=False,\ndb_column=\"upId\",\n)",
        "weakened: Django acts on deletion in the application, not in the database\n\
         added: Django has every foreign key checked at commit",
    ),
];
