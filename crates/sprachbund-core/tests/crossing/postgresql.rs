//! Constructs that cross on PostgreSQL.

use super::Crossing;

pub(crate) const DJANGO: &[Crossing] = &[
    ("a = models.CharField(max_length=24)", "@Column({ length: 24 })\na!: string;", ""),
    (
        "a = models.CharField(max_length=24, null=True, blank=True)",
        "@Column({ type: 'varchar', length: 24, nullable: true })\na!: string | null;",
        "",
    ),
    (
        "a = models.CharField(max_length=24, default='x')",
        "@Column({ length: 24 })\na: string = 'x';",
        "",
    ),
    (
        "a = models.CharField(max_length=24, db_default='x')",
        "@Column({ length: 24, default: 'x' })\na!: string;",
        "",
    ),
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
    (
        "a = models.CharField(max_length=24, db_collation='C')",
        "@Column({ length: 24, collation: 'C' })\na!: string;",
        "",
    ),
    (
        "a = models.CharField(max_length=5, choices=[('x', 'X'), ('y', 'Y')])",
        "@Column({ length: 5 })\na!: 'x' | 'y';",
        "dropped: members of an enumeration have no texts to show",
    ),
    (
        "a = models.CharField(max_length=24, validators=[RegexValidator('^[A-Z]+$')])",
        "@Column({ length: 24 })\na!: string;",
        "",
    ),
    (
        "a = models.CharField(max_length=24, editable=False, help_text='seen by the pilot')",
        "@Column({ length: 24 })\na!: string;",
        "dropped: `editable` has no meaning outside its own framework\n\
         dropped: `help_text` has no meaning outside its own framework",
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
        "dropped: TypeORM does not check text formats\n\
         moved: TypeORM cannot say an operator class of an index",
    ),
    (
        "a = models.EmailField()",
        "@Column({ length: 254 })\na!: string;",
        "dropped: TypeORM does not check text formats",
    ),
    (
        "a = models.URLField()",
        "@Column({ length: 200 })\na!: string;",
        "dropped: TypeORM does not check text formats",
    ),
    ("a = models.IntegerField(default=3)", "@Column()\na: number = 3;", ""),
    ("a = models.SmallIntegerField()", "@Column({ type: 'smallint' })\na!: number;", ""),
    ("a = models.BigIntegerField()", "@Column({ type: 'bigint' })\na!: string;", ""),
    ("a = models.PositiveIntegerField()", "@Check('\"a\" >= 0')\n@Column()\na!: number;", ""),
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
    (
        "a = models.UUIDField(primary_key=True, default=uuid.uuid4)",
        "@PrimaryColumn({ type: 'uuid' })\na: string = randomUUID();",
        "",
    ),
    ("a = models.BinaryField()", "@Column({ type: 'bytea' })\na!: Buffer;", ""),
    ("a = models.JSONField(default=dict)", "@Column({ type: 'jsonb' })\na: unknown = {};", ""),
    ("a = models.GenericIPAddressField()", "@Column({ type: 'inet' })\na!: string;", ""),
    (
        "a = models.FileField(upload_to='plans')",
        "@Column({ length: 100 })\na!: string;",
        "dropped: TypeORM does not check text formats\n\
         dropped: `upload_to` has no meaning outside its own framework",
    ),
    (
        "a = ArrayField(models.IntegerField())",
        "@Column({ type: 'integer', array: true })\na!: number[];",
        "",
    ),
    ("a = IntegerRangeField()", "@Column({ type: 'int4range' })\na!: string;", ""),
    (
        "a = models.IntegerField()\nb = models.GeneratedField(expression=F('a') * 2, \
         output_field=models.IntegerField(), db_persist=True)",
        "@Column()\na!: number;\n@Column({ type: 'integer', nullable: true, asExpression: \
         '\"a\" * 2', generatedType: 'STORED' })\nb!: number | null;",
        "",
    ),
    (
        "up = models.ForeignKey('self', models.CASCADE)",
        "@Index()\n@ManyToOne(() => T, (t) => t.ts, {\nnullable: false,\nonDelete: 'CASCADE',\n\
         deferrable: 'INITIALLY DEFERRED',\n})\n@JoinColumn({ name: 'up_id' })\nup!: T;\n\
         @OneToMany(() => T, (t) => t.up)\nts!: T[];",
        "strengthened: on deletion the application acted (cascade)",
    ),
    (
        "up = models.ForeignKey('self', models.CASCADE, related_name='downs')",
        "@Index()\n@ManyToOne(() => T, (t) => t.downs, {\nnullable: false,\n\
         onDelete: 'CASCADE',\ndeferrable: 'INITIALLY DEFERRED',\n})\n\
         @JoinColumn({ name: 'up_id' })\nup!: T;\n@OneToMany(() => T, (t) => t.up)\n\
         downs!: T[];",
        "strengthened: on deletion the application acted (cascade)",
    ),
    (
        "up = models.ForeignKey('self', models.PROTECT, db_index=False, related_name='+')",
        "@ManyToOne(() => T, \
         { nullable: false, onDelete: 'RESTRICT', deferrable: 'INITIALLY DEFERRED' })\n\
         @JoinColumn({ name: 'up_id' })\nup!: T;",
        "strengthened: on deletion the application acted (protect)",
    ),
    (
        "up = models.ForeignKey('self', models.SET_NULL, null=True, related_name='+')",
        "@Index()\n\
         @ManyToOne(() => T, { onDelete: 'SET NULL', deferrable: 'INITIALLY DEFERRED' })\n\
         @JoinColumn({ name: 'up_id' })\nup!: T | null;",
        "strengthened: on deletion the application acted (set null)",
    ),
    (
        "up = models.ForeignKey('self', models.DO_NOTHING, related_name='+')",
        "@Index()\n@ManyToOne(() => T, { nullable: false, deferrable: 'INITIALLY DEFERRED' })\n\
         @JoinColumn({ name: 'up_id' })\nup!: T;",
        "respelled: on deletion the application acted (no action)",
    ),
    (
        "up = models.ForeignKey('self', models.CASCADE, db_constraint=False, related_name='+')",
        "@Index()\n@ManyToOne(() => T, {\nnullable: false,\ndeferrable: 'INITIALLY DEFERRED',\n\
         createForeignKeyConstraints: false,\n})\n@JoinColumn({ name: 'up_id' })\nup!: T;",
        "dropped: the application no longer acts on deletion, and no foreign key does (cascade)",
    ),
    (
        "up = models.ForeignKey('self', models.CASCADE, to_field='a', related_name='+')\n\
         a = models.CharField(max_length=4, unique=True)",
        "@Index()\n\
         @ManyToOne(() => T, \
         { nullable: false, onDelete: 'CASCADE', deferrable: 'INITIALLY DEFERRED' })\n\
         @JoinColumn({ name: 'up_id', referencedColumnName: 'a' })\nup!: T;\n\
         @Column({ length: 4, unique: true })\na!: string;",
        "moved: TypeORM cannot say an operator class of an index\n\
         strengthened: on deletion the application acted (cascade)",
    ),
    (
        "up = models.OneToOneField('self', models.CASCADE, related_name='+')",
        "@OneToOne(() => T, \
         { nullable: false, onDelete: 'CASCADE', deferrable: 'INITIALLY DEFERRED' })\n\
         @JoinColumn({ name: 'up_id' })\nup!: T;",
        "strengthened: on deletion the application acted (cascade)",
    ),
    (
        "near = models.ManyToManyField('self')",
        "@OneToMany(() => TNear, (tNear) => tNear.fromT)\ntNearsFromT!: TNear[];\n\
         @OneToMany(() => TNear, (tNear) => tNear.toT)\ntNearsToT!: TNear[];",
        "dropped: TypeORM has no relation that goes both ways at once\n\
         added: the join table `harbour_t_near` has a shape that TypeORM would not give it\n\
         strengthened: on deletion the application acted (cascade)\n\
         respelled: TypeORM joins two tables only by a join table of its own shape",
    ),
    (
        "who = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name='+')",
        "@Index()\n\
         @ManyToOne(() => User, \
         { nullable: false, onDelete: 'CASCADE', deferrable: 'INITIALLY DEFERRED' })\n\
         @JoinColumn({ name: 'who_id' })\nwho!: User;",
        "strengthened: on deletion the application acted (cascade)\n\
         respelled: this class belongs to a package of the source framework that TypeORM does \
         not have",
    ),
    (
        "a = models.IntegerField()
class Meta:
    db_table = 'tbl'
    db_table_comment = 'where ships lie'",
        "@Entity('tbl', { comment: 'where ships lie' })\n@Column()\na!: number;",
        "",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    ordering = ['-a']\n    verbose_name = 'pier'",
        "@Entity('harbour_t', { orderBy: { a: 'DESC' } })\n@Column()\na!: number;",
        "dropped: `verbose_name` has no meaning outside its own framework",
    ),
    (
        "a = models.IntegerField()
b = models.IntegerField()
class Meta:
    unique_together = [('a', 'b')]",
        "@Unique(['a', 'b'])\n@Column()\na!: number;\n@Column()\nb!: number;",
        "",
    ),
    (
        "a = models.IntegerField()
b = models.IntegerField()
class Meta:
    indexes = [models.Index(fields=['a', '-b'], name='ab')]",
        "@Column()\na!: number;\n@Column()\nb!: number;",
        "moved: TypeORM cannot say a descending key of an index",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    indexes = [models.Index(fields=['a'], \
         name='some', condition=Q(a__gt=1))]",
        "@Index('some', ['a'], { where: '\"a\" > 1' })\n@Column()\na!: number;",
        "",
    ),
    (
        "a = models.TextField()\nclass Meta:\n    indexes = [models.Index(Lower('a'), name='low')]",
        "@Column({ type: 'text' })\na!: string;",
        "moved: TypeORM cannot say an index over an expression",
    ),
    (
        "a = models.TextField()
b = models.IntegerField()
class Meta:
    indexes = [models.Index(fields=['a'], name='inc', include=['b'])]",
        "@Column({ type: 'text' })\na!: string;\n@Column()\nb!: number;",
        "moved: TypeORM cannot say further columns of an index",
    ),
    (
        "a = models.TextField()\nclass Meta:\n    indexes = [models.Index(fields=['a'], \
         name='ops', opclasses=['text_pattern_ops'])]",
        "@Column({ type: 'text' })\na!: string;",
        "moved: TypeORM cannot say an operator class of an index",
    ),
    (
        "a = models.JSONField()\nclass Meta:\n    indexes = [GinIndex(fields=['a'], name='gin')]",
        "@Column({ type: 'jsonb' })\na!: unknown;",
        "moved: TypeORM cannot say an access method of an index",
    ),
    (
        "a = models.IntegerField()\n\
         class Meta:\n    constraints = [models.UniqueConstraint(fields=['a'], name='once')]",
        "@Unique('once', ['a'])\n@Column()\na!: number;",
        "",
    ),
    (
        "a = models.IntegerField()\n\
         class Meta:\n    constraints = [models.UniqueConstraint(fields=['a'], name='once', \
         condition=Q(a__gte=0))]",
        "@Index('once', ['a'], { unique: true, where: '\"a\" >= 0' })\n@Column()\na!: number;",
        "",
    ),
    (
        "a = models.IntegerField()\n\
         class Meta:\n    constraints = [models.UniqueConstraint(fields=['a'], name='late', \
         deferrable=models.Deferrable.DEFERRED)]",
        "@Unique('late', ['a'], { deferrable: 'INITIALLY DEFERRED' })\n@Column()\na!: number;",
        "",
    ),
    (
        "a = models.IntegerField()\n\
         class Meta:\n    constraints = [models.CheckConstraint(condition=Q(a__gte=0), \
         name='pos')]",
        "@Check('pos', '\"a\" >= 0')\n@Column()\na!: number;",
        "",
    ),
    (
        "a = models.CharField(max_length=4)\ndef __str__(self):\n    return self.a",
        "@Column({ length: 4 })\na!: string;",
        "dropped: the display text of a record has no place in an entity",
    ),
];

pub(crate) const TYPEORM: &[Crossing] = &[
    ("@Column() a!: string;", "a = models.CharField()", ""),
    ("@Column({ length: 24 }) a!: string;", "a = models.CharField(max_length=24)", ""),
    (
        "@Column({ type: 'varchar', nullable: true }) a!: string | null;",
        "a = models.CharField(null=True, blank=True)",
        "",
    ),
    (
        "@Column({ default: 'x', length: 4 }) a!: string;",
        r#"a = models.CharField(max_length=4, db_default="x")"#,
        "",
    ),
    (
        "@Column({ length: 4 }) a: string = 'x';",
        r#"a = models.CharField(max_length=4, default="x")"#,
        "",
    ),
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
    (
        "@Column({ length: 4, collation: 'C' }) a!: string;",
        r#"a = models.CharField(max_length=4, db_collation="C")"#,
        "",
    ),
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
    (
        "@Column('real') a!: number;",
        "a = models.FloatField()",
        "strengthened: Django cannot say `real` on this server",
    ),
    ("@Column('double precision') a!: number;", "a = models.FloatField()", ""),
    (
        "@Column('decimal', { precision: 7, scale: 2 }) a!: string;",
        "a = models.DecimalField(max_digits=7, decimal_places=2)",
        "",
    ),
    ("@Column() a!: boolean;", "a = models.BooleanField()", ""),
    ("@Column('date') a!: string;", "a = models.DateField()", ""),
    (
        "@Column('timestamp') a!: Date;",
        "a = models.DateTimeField()",
        "respelled: Django cannot say `timestamp` on this server",
    ),
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
    (
        "@Column('json') a!: unknown;",
        "a = models.JSONField()",
        "respelled: Django cannot say `json` on this server",
    ),
    ("@Column('jsonb', { default: {} }) a!: unknown;", "a = models.JSONField(db_default={})", ""),
    ("@Column('inet') a!: string;", "a = models.GenericIPAddressField()", ""),
    ("@Column('int4range') a!: string;", "a = IntegerRangeField()", ""),
    (
        "@Column('citext') a!: string;",
        "a = models.TextField()",
        "weakened: Django cannot say `case-folded text` on this server",
    ),
    (
        "@Column('money') a!: string;",
        "a = models.TextField()",
        "weakened: Django cannot say `native(money)` on this server",
    ),
    ("@Column('tsvector') a!: string;", "a = SearchVectorField()", ""),
    (
        "@Column('char', { length: 2 }) a!: string;",
        "a = models.CharField(max_length=2)",
        "respelled: Django cannot say `char(2)` on this server",
    ),
    ("@Column('int', { array: true }) a!: number[];", "a = ArrayField(models.IntegerField())", ""),
    (
        "@Column('simple-array') a!: string[];",
        "a = models.TextField()",
        "dropped: Django does not check text formats",
    ),
    (
        "@Column('simple-json') a!: unknown;",
        "a = models.TextField()",
        "dropped: Django does not check text formats",
    ),
    (
        "@Column({ type: 'enum', enum: ['x', 'y'], default: 'x' }) a!: string;",
        r#"a = models.CharField(max_length=16, db_default="x", choices=[("x", "x"), ("y", "y")])"#,
        "weakened: Django has no enumeration types of the database\n\
         added: choices need a text to show",
    ),
    (
        "@Column({ type: 'int', asExpression: '1 + 1', generatedType: 'STORED' }) a!: number;",
        "a = models.GeneratedField(\nexpression=models.Value(1) + 1,\n\
         output_field=models.IntegerField(),\ndb_persist=True,\n)",
        "weakened: Django makes every generated column nullable",
    ),
    (
        "@Column({ default: () => 'now()' }) a!: Date;",
        "a = models.DateTimeField(db_default=TransactionNow())",
        "respelled: Django cannot say `timestamp` on this server",
    ),
    (
        r#"@Column({ type: 'text', default: () => "md5('x')" }) a!: string;"#,
        r#"a = models.TextField(db_default=RawSQL("md5('x')", ()))"#,
        "",
    ),
    (
        "@CreateDateColumn() a!: Date;",
        "a = models.DateTimeField(auto_now_add=True, db_default=TransactionNow())",
        "added: Django fills in times of creation and update in its own way\n\
         respelled: Django cannot say `timestamp` on this server",
    ),
    (
        "@UpdateDateColumn() a!: Date;",
        "a = models.DateTimeField(auto_now=True, db_default=TransactionNow())",
        "added: Django fills in times of creation and update in its own way\n\
         respelled: Django cannot say `timestamp` on this server",
    ),
    (
        "@UpdateDateColumn({ type: 'timestamptz' }) a!: Date;",
        "a = models.DateTimeField(auto_now=True, db_default=TransactionNow())",
        "added: Django fills in times of creation and update in its own way",
    ),
    (
        "@DeleteDateColumn() a!: Date | null;",
        "a = models.DateTimeField(null=True, blank=True)",
        "weakened: Django does not leave out records that are marked as deleted\n\
         weakened: Django does not keep such a column by itself\n\
         respelled: Django cannot say `timestamp` on this server",
    ),
    (
        "@VersionColumn() a!: number;",
        "a = models.IntegerField()",
        "weakened: Django does not keep such a column by itself",
    ),
    (
        "@Column(() => Position) at!: Position;",
        r#"at_latitude = models.FloatField(db_column="atLatitude")"#,
        "",
    ),
    (
        "@PrimaryColumn() b!: number;",
        "pk = models.CompositePrimaryKey(\"id\", \"b\")\nid = models.IntegerField()\n\
         b = models.IntegerField()",
        "dropped: Django numbers only a key of one column",
    ),
    (
        "@ManyToOne(() => T) up!: T | null;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.DO_NOTHING,\nrelated_name=\"+\",\n\
         null=True,\nblank=True,\ndb_index=False,\ndb_column=\"upId\",\n)",
        "added: Django says for each relation what the application does on deletion\n\
         added: Django has every foreign key checked at commit",
    ),
    (
        "@ManyToOne(() => T, { nullable: false, onDelete: 'CASCADE' }) up!: T;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.CASCADE,\nrelated_name=\"+\",\n\
         db_index=False,\ndb_column=\"upId\",\n)",
        "weakened: Django acts on deletion in the application, not in the database\n\
         added: Django has every foreign key checked at commit",
    ),
    (
        "@ManyToOne(() => T, { onDelete: 'SET NULL' }) up!: T | null;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.SET_NULL,\nrelated_name=\"+\",\n\
         null=True,\nblank=True,\ndb_index=False,\ndb_column=\"upId\",\n)",
        "weakened: Django acts on deletion in the application, not in the database\n\
         added: Django has every foreign key checked at commit",
    ),
    (
        "@ManyToOne(() => T, { onDelete: 'RESTRICT', onUpdate: 'CASCADE' }) up!: T | null;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.RESTRICT,\nrelated_name=\"+\",\n\
         null=True,\nblank=True,\ndb_index=False,\ndb_column=\"upId\",\n)",
        "weakened: Django acts on deletion in the application, not in the database\n\
         added: Django has every foreign key checked at commit",
    ),
    (
        "@ManyToOne(() => T, { createForeignKeyConstraints: false }) up!: T | null;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.DO_NOTHING,\nrelated_name=\"+\",\n\
         db_constraint=False,\nnull=True,\nblank=True,\ndb_index=False,\ndb_column=\"upId\",\n)",
        "added: Django says for each relation what the application does on deletion\n\
         added: Django has every foreign key checked at commit",
    ),
    (
        "@ManyToOne(() => T, { deferrable: 'INITIALLY DEFERRED' }) up!: T | null;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.DO_NOTHING,\nrelated_name=\"+\",\n\
         null=True,\nblank=True,\ndb_index=False,\ndb_column=\"upId\",\n)",
        "added: Django says for each relation what the application does on deletion",
    ),
    (
        "@Index() @ManyToOne(() => T) up!: T | null;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.DO_NOTHING,\nrelated_name=\"+\",\n\
         null=True,\nblank=True,\ndb_column=\"upId\",\n)",
        "added: Django says for each relation what the application does on deletion\n\
         added: Django has every foreign key checked at commit",
    ),
    (
        "@ManyToOne(() => T, (t) => t.downs) up!: T | null;\n\
         @OneToMany(() => T, (t) => t.up) downs!: T[];",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.DO_NOTHING,\nrelated_name=\"downs\",\n\
         null=True,\nblank=True,\ndb_index=False,\ndb_column=\"upId\",\n)",
        "added: Django says for each relation what the application does on deletion\n\
         added: Django has every foreign key checked at commit",
    ),
    (
        "@OneToOne(() => T) @JoinColumn() twin!: T | null;",
        "twin = models.OneToOneField(\n\"T\",\non_delete=models.DO_NOTHING,\n\
         related_name=\"+\",\nnull=True,\nblank=True,\ndb_column=\"twinId\",\n)",
        "added: Django says for each relation what the application does on deletion\n\
         added: Django has every foreign key checked at commit",
    ),
    (
        "@ManyToMany(() => T) @JoinTable() near!: T[];",
        "near = models.ManyToManyField(\n\"T\",\nrelated_name=\"+\",\nthrough=\"TNear\",\n\
         symmetrical=False,\nthrough_fields=[\"from_t\", \"to_t\"],\n)\n\
         class TNear(models.Model):\npk = models.CompositePrimaryKey(\"from_t_id\", \
         \"to_t_id\")\nfrom_t = models.ForeignKey(\nT,\non_delete=models.CASCADE,\n\
         related_name=\"t_nears_from_t\",\ndb_column=\"tId_1\",\n)\nto_t = models.ForeignKey(\n\
         T,\non_delete=models.CASCADE,\nrelated_name=\"t_nears_to_t\",\ndb_column=\"tId_2\",\n\
         )\ndb_table = \"t_near_t\"",
        "weakened: Django acts on deletion in the application, not in the database\n\
         added: the join table `t_near_t` has a shape that Django would not give it\n\
         added: a join to itself by a class names its two references\n\
         added: Django has every foreign key checked at commit",
    ),
    (
        "@Column({ type: 'int' }) upId!: number;\n\
         @ManyToOne(() => T) @JoinColumn({ name: 'upId' }) up!: T;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.DO_NOTHING,\nrelated_name=\"+\",\n\
         db_index=False,\ndb_column=\"upId\",\n)",
        "added: Django says for each relation what the application does on deletion\n\
         added: Django has every foreign key checked at commit",
    ),
];

pub(crate) const TYPEORM_CLASSES: &[Crossing] = &[
    (
        "@Entity('x', { schema: 's' })\nclass T { ID }",
        r#"db_table = "x""#,
        "dropped: Django cannot put a table into a named schema",
    ),
    (
        "@Entity({ comment: 'c', orderBy: { id: 'DESC' } })\nclass T { ID }",
        "db_table_comment = \"c\"\nordering = [\"-id\"]",
        "",
    ),
    (
        "@Entity()\n@Unique('u', ['a', 'id'])\nclass T { ID @Column() a!: number; }",
        "a = models.IntegerField()\nconstraints = [models.UniqueConstraint(fields=[\"a\", \
         \"id\"], name=\"u\")]",
        "",
    ),
    (
        "@Entity()\n@Unique('u', ['a'], { deferrable: 'INITIALLY DEFERRED' })\nclass \
             T { ID @Column() a!: number; }",
        "a = models.IntegerField()\nconstraints = [\n\
         models.UniqueConstraint(fields=[\"a\"], name=\"u\", \
         deferrable=models.Deferrable.DEFERRED),\n]",
        "",
    ),
    (
        "@Entity()\n@Check('c', '\"a\" > 1')\nclass T { ID @Column() a!: number; }",
        "a = models.IntegerField()\n\
         constraints = [models.CheckConstraint(condition=models.Q(a__gt=1), name=\"c\")]",
        "",
    ),
    (
        "@Entity()\n@Check('c', 'length(\"a\"::text) > 1 AND \"a\" ~ \\'x\\'')\n\
             class T { ID @Column() a!: string; }",
        "a = models.CharField()\nconstraints = [\n\
         models.CheckConstraint(condition=RawSQL(\"length(\\\"a\\\"::text) > 1 AND \\\"a\\\" ~ \
         'x'\", (), output_field=models.BooleanField()), name=\"c\"),\n]",
        "",
    ),
    (
        "@Entity()\n@Exclusion('e', 'USING gist (\"a\" WITH =)')\nclass T \
             { ID @Column() a!: number; }",
        "a = models.IntegerField()",
        "moved: an exclusion constraint is written as SQL",
    ),
    (
        "@Entity()\n@Index('ab', ['a', 'id'], { unique: true })\nclass T \
             { ID @Column() a!: number; }",
        "a = models.IntegerField()\nconstraints = [models.UniqueConstraint(fields=[\"a\", \
         \"id\"], name=\"ab\")]",
        "respelled: Django makes unique constraints, not plain unique indexes",
    ),
    (
        "@Entity()\n@Index('some', ['a'], { where: '\"a\" > 1' })\nclass T \
             { ID @Column() a!: number; }",
        "a = models.IntegerField()\n\
         indexes = [models.Index(fields=[\"a\"], condition=models.Q(a__gt=1), name=\"some\")]",
        "",
    ),
    (
        "@Entity()\n@Index('sp', ['a'], { spatial: true })\nclass T { ID @Column() a!: number; }",
        "a = models.IntegerField()\nindexes = [GistIndex(fields=[\"a\"], name=\"sp\")]",
        "",
    ),
    (
        "@Entity()\nclass T { @Column() a!: number; }",
        "a = models.IntegerField()",
        "added: Django has no class without a key",
    ),
    (
        "@ViewEntity({ expression: 'SELECT 1 AS a' })\nclass T { @ViewColumn() a!: number; }",
        "a = models.IntegerField()\nmanaged = False",
        "dropped: `expression` has no meaning outside its own framework\n\
         respelled: Django has no word for a view",
    ),
    (
        "@Entity()\n@TableInheritance({ column: { name: 'kind', type: 'varchar' } })\n\
         class T { ID }\n@ChildEntity()\nclass Tug extends T { @Column() pull!: number; }",
        "pull = models.IntegerField(null=True, blank=True)\n\
         kind = models.CharField(db_index=True)\nclass Tug(T):\nproxy = True",
        "dropped: `discriminator` has no meaning outside its own framework\n\
         dropped: `discriminator_value` has no meaning outside its own framework\n\
         added: an indexed text gets a second index for patterns",
    ),
];
