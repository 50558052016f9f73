//! Constructs that cross on MariaDB.

use super::Crossing;

pub(crate) const DJANGO: &[Crossing] = &[
    ("a = models.CharField(max_length=24)", "@Column({ length: 24 })\na!: string;", ""),
    ("a = models.TextField(db_index=True)", "@Column({ type: 'longtext' })\na!: string;", ""),
    ("a = models.CharField()", "@Column({ type: 'longtext' })\na!: string;", "respelled: `varchar` is held as `longtext`"),
    ("a = models.BooleanField(db_default=True)", "@Column({ default: true })\na!: boolean;", ""),
    ("a = models.PositiveIntegerField()", "@Column({ unsigned: true })\na!: number;", "moved: TypeORM makes no checks on this server"),
    (
        "a = models.DecimalField(max_digits=9, decimal_places=2, db_default=Decimal('1.5'))",
        "@Column({ type: 'decimal', precision: 9, scale: 2, default: '1.5' })\na!: string;",
        "",
    ),
    (
        "a = models.DateTimeField(auto_now_add=True)",
        "@CreateDateColumn()\na!: Date;",
        "strengthened: TypeORM fills in times of creation and update in its own way\nrespelled: `timestamp with time zone` is held as `datetime(6)`",
    ),
    (
        "a = models.DateTimeField(auto_now=True)",
        "@UpdateDateColumn()\na!: Date;",
        "added: the time of an update is taken by the database, too\nstrengthened: TypeORM fills in times of creation and update in its own way\nrespelled: `timestamp with time zone` is held as `datetime(6)`",
    ),
    (
        "a = models.DateTimeField(db_default=Now())",
        "@Column({ precision: 6, default: () => 'CURRENT_TIMESTAMP(6)' })\na!: Date;",
        "respelled: `timestamp with time zone` is held as `datetime(6)`\nrespelled: this server has no such function",
    ),
    (
        "a = models.TimeField(null=True)",
        "@Column({ type: 'time', precision: 6, nullable: true })\na!: string | null;",
        "respelled: `time` is held as `time(6)`",
    ),
    ("a = models.DurationField()", "@Column({ type: 'bigint' })\na!: string;", "respelled: `interval` is held as `bigint`"),
    ("a = models.UUIDField(default=uuid.uuid4)", "@Column({ type: 'uuid' })\na: string = randomUUID();", ""),
    (
        "a = models.GenericIPAddressField()",
        "@Column({ type: 'char', length: 39 })\na!: string;",
        "respelled: `network address` is held as `char(39)`",
    ),
    ("a = models.JSONField(default=dict)", "@Column({ type: 'json' })\na: unknown = {};", "respelled: `binary json` is held as `json`"),
    ("a = models.BinaryField()", "@Column({ type: 'longblob' })\na!: Buffer;", ""),
    ("a = models.CharField(max_length=9, db_comment='depth')", "@Column({ length: 9, comment: 'depth' })\na!: string;", ""),
    (
        "up = models.ForeignKey('self', models.CASCADE, related_name='+')",
        "@ManyToOne(() => T, { nullable: false, onDelete: 'CASCADE' })\n@JoinColumn({ name: 'up_id' })\nup!: T;",
        "strengthened: on deletion the application acted (cascade)",
    ),
    (
        "up = models.ForeignKey('self', models.CASCADE, db_index=False, related_name='+')",
        "@ManyToOne(() => T, { nullable: false, onDelete: 'CASCADE' })\n@JoinColumn({ name: 'up_id' })\nup!: T;",
        "strengthened: on deletion the application acted (cascade)",
    ),
    (
        "up = models.ForeignKey('self', models.CASCADE, db_constraint=False, related_name='+')",
        "@Index()\n@ManyToOne(() => T, { nullable: false, createForeignKeyConstraints: false })\n@JoinColumn({ name: 'up_id' })\nup!: T;",
        "dropped: the application no longer acts on deletion, and no foreign key does (cascade)",
    ),
    (
        "a = models.IntegerField()\nb = models.GeneratedField(expression=F('a') * 2, output_field=models.IntegerField(), db_persist=True)",
        "@Column()\na!: number;\n@Column({ type: 'integer', asExpression: '`a` * 2', generatedType: 'STORED' })\nb!: number | null;",
        "",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    indexes = [models.Index(fields=['a'], name='some', condition=Q(a__gt=3))]",
        "@Index('some', ['a'])\n@Column()\na!: number;",
        "",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    constraints = [models.UniqueConstraint(fields=['a'], name='some', condition=Q(a__gt=3))]",
        "@Column()\na!: number;",
        "",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    constraints = [models.CheckConstraint(condition=Q(a__gt=3), name='deep')]",
        "@Column()\na!: number;",
        "moved: TypeORM makes no checks on this server",
    ),
    (
        "a = models.CharField(max_length=9)\nclass Meta:\n    indexes = [models.Index(Lower('a'), name='low'), models.Index(fields=['-a'], name='down')]",
        "@Column({ length: 9 })\na!: string;",
        "moved: TypeORM cannot say a descending key of an index",
    ),
];

pub(crate) const TYPEORM: &[Crossing] = &[
    ("@Column() a!: string;", "a = models.CharField(max_length=255)", ""),
    ("@Column() a!: boolean;", "a = models.BooleanField()", ""),
    ("@Column() a!: Date;", "a = models.DateTimeField()", "respelled: Django cannot say `timestamp` on this server"),
    (
        "@Column({ type: 'int', unsigned: true }) a!: number;",
        "a = models.PositiveIntegerField()",
        "added: the framework checks such a column by itself",
    ),
    ("@Column('tinyint') a!: number;", "a = models.SmallIntegerField()", "respelled: Django cannot say `native(tinyint)` on this server"),
    ("@Column('mediumint') a!: number;", "a = models.IntegerField()", "respelled: Django cannot say `native(mediumint)` on this server"),
    ("@Column('decimal') a!: string;", "a = models.DecimalField(max_digits=10, decimal_places=0)", ""),
    (
        "@Column({ type: 'decimal', precision: 9, scale: 2, default: 1.5 }) a!: string;",
        "a = models.DecimalField(max_digits=9, decimal_places=2, db_default=Decimal(\"1.5\"))",
        "",
    ),
    ("@Column('text') a!: string;", "a = models.TextField()", "respelled: MariaDB keeps the name that a framework gives to a type"),
    ("@Column('longtext') a!: string;", "a = models.TextField()", ""),
    (
        "@Column({ type: 'varbinary', length: 16 }) a!: Buffer;",
        "a = models.BinaryField()",
        "weakened: Django cannot say `binary(16)` on this server",
    ),
    ("@Column('timestamp') a!: Date;", "a = models.DateTimeField()", "respelled: MariaDB keeps the name that a framework gives to a type"),
    (
        "@Column({ type: 'datetime', precision: 6, default: () => 'CURRENT_TIMESTAMP(6)', onUpdate: 'CURRENT_TIMESTAMP(6)' }) a!: Date;",
        "a = models.DateTimeField(db_default=Now())",
        "weakened: Django does not tell the database to set a value at an update\nrespelled: Django has another word for `datetime(6)`\nrespelled: this server has no such function",
    ),
    (
        "@CreateDateColumn() a!: Date;",
        "a = models.DateTimeField(auto_now_add=True, db_default=Now())",
        "added: Django fills in times of creation and update in its own way\nrespelled: Django has another word for `datetime(6)`\nrespelled: this server has no such function",
    ),
    (
        "@UpdateDateColumn() a!: Date;",
        "a = models.DateTimeField(auto_now=True, db_default=Now())",
        "weakened: Django does not tell the database to set a value at an update\nadded: Django fills in times of creation and update in its own way\nrespelled: Django has another word for `datetime(6)`\nrespelled: this server has no such function",
    ),
    (
        "@DeleteDateColumn() a!: Date | null;",
        "a = models.DateTimeField(null=True, blank=True)",
        "weakened: Django does not leave out records that are marked as deleted\nweakened: Django does not keep such a column by itself\nrespelled: Django has another word for `datetime(6)`",
    ),
    ("@Column('uuid') a!: string;", "a = models.UUIDField()", ""),
    (
        "@Column({ type: 'json', nullable: true }) a!: object | null;",
        "a = models.JSONField(null=True, blank=True)",
        "respelled: Django has another word for `json`",
    ),
    (
        "@Column({ type: 'enum', enum: ['port', 'starboard'], default: 'port' }) a!: string;",
        "a = models.CharField(\nmax_length=16,\ndb_default=\"port\",\nchoices=[(\"port\", \"port\"), (\"starboard\", \"starboard\")],\n)",
        "weakened: Django has no enumeration types of the database\nadded: choices need a text to show",
    ),
    (
        "@Column('simple-array') a!: string[];",
        "a = models.TextField()",
        "dropped: Django does not check text formats\nrespelled: MariaDB keeps the name that a framework gives to a type",
    ),
    ("@Column({ default: () => \"'it''s'\" }) a!: string;", "a = models.CharField(max_length=255, db_default=\"it's\")", ""),
    (
        "@Column({ asExpression: '`id` * 2', type: 'int', nullable: true }) a!: number | null;",
        "a = models.GeneratedField(\nexpression=models.F(\"id\") * 2,\noutput_field=models.IntegerField(),\ndb_persist=False,\n)",
        "",
    ),
    (
        "@ManyToOne(() => T, { onDelete: 'CASCADE' }) up!: T | null;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.CASCADE,\nrelated_name=\"+\",\nnull=True,\nblank=True,\ndb_column=\"upId\",\n)",
        "weakened: Django acts on deletion in the application, not in the database",
    ),
    (
        "@ManyToOne(() => T, { createForeignKeyConstraints: false }) up!: T | null;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.DO_NOTHING,\nrelated_name=\"+\",\ndb_constraint=False,\nnull=True,\nblank=True,\ndb_index=False,\ndb_column=\"upId\",\n)",
        "added: Django says for each relation what the application does on deletion",
    ),
    ("@Index() @Column() a!: number;", "a = models.IntegerField(db_index=True)", ""),
    ("@Index({ where: '`a` > 3' }) @Column() a!: number;", "a = models.IntegerField(db_index=True)", ""),
    (
        "@Index({ unique: true }) @Column() a!: number;",
        "a = models.IntegerField(unique=True)",
        "respelled: Django makes unique constraints, not plain unique indexes",
    ),
];
