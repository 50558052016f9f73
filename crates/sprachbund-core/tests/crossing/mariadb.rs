//! Constructs that cross on MariaDB.

use super::Crossing;

pub(crate) const DJANGO: &[Crossing] = &[
    ("a = models.CharField(max_length=24)", "@Column({ length: 24 })\na!: string;", ""),
    ("a = models.TextField(db_index=True)", "@Column({ type: 'longtext' })\na!: string;", ""),
    (
        "a = models.CharField()",
        "@Column({ type: 'longtext' })\na!: string;",
        "respelled: `varchar` is held as `longtext`",
    ),
    ("a = models.BooleanField(db_default=True)", "@Column({ default: true })\na!: boolean;", ""),
    (
        "a = models.PositiveIntegerField()",
        "@Column({ unsigned: true })\na!: number;",
        "moved: TypeORM makes no checks on this server",
    ),
    (
        "a = models.DecimalField(max_digits=9, decimal_places=2, db_default=Decimal('1.5'))",
        "@Column({ type: 'decimal', precision: 9, scale: 2, default: '1.5' })\na!: string;",
        "",
    ),
    (
        "a = models.DateTimeField(auto_now_add=True)",
        "@CreateDateColumn()\na!: Date;",
        "strengthened: TypeORM fills in times of creation and update in its own way\n\
         respelled: `timestamp with time zone` is held as `datetime(6)`",
    ),
    (
        "a = models.DateTimeField(auto_now=True)",
        "@UpdateDateColumn()\na!: Date;",
        "added: the time of an update is taken by the database, too\n\
         strengthened: TypeORM fills in times of creation and update in its own way\n\
         respelled: `timestamp with time zone` is held as `datetime(6)`",
    ),
    (
        "a = models.DateTimeField(db_default=Now())",
        "@Column({ precision: 6, default: () => 'CURRENT_TIMESTAMP(6)' })\na!: Date;",
        "respelled: `timestamp with time zone` is held as `datetime(6)`\n\
         respelled: this server has no such function",
    ),
    (
        "a = models.TimeField(null=True)",
        "@Column({ type: 'time', precision: 6, nullable: true })\na!: string | null;",
        "respelled: `time` is held as `time(6)`",
    ),
    (
        "a = models.DurationField()",
        "@Column({ type: 'bigint' })\na!: string;",
        "respelled: `interval` is held as `bigint`",
    ),
    (
        "a = models.UUIDField(default=uuid.uuid4)",
        "@Column({ type: 'uuid' })\na: string = randomUUID();",
        "",
    ),
    (
        "a = models.GenericIPAddressField()",
        "@Column({ type: 'char', length: 39 })\na!: string;",
        "respelled: `network address` is held as `char(39)`",
    ),
    (
        "a = models.JSONField(default=dict)",
        "@Column({ type: 'json' })\na: unknown = {};",
        "respelled: `binary json` is held as `json`",
    ),
    ("a = models.BinaryField()", "@Column({ type: 'longblob' })\na!: Buffer;", ""),
    (
        "a = models.CharField(max_length=9, db_comment='depth')",
        "@Column({ length: 9, comment: 'depth' })\na!: string;",
        "",
    ),
    (
        "up = models.ForeignKey('self', models.CASCADE, related_name='+')",
        "@ManyToOne(() => T, { nullable: false, onDelete: 'CASCADE' })\n\
         @JoinColumn({ name: 'up_id' })\nup!: T;",
        "strengthened: on deletion the application acted (cascade)",
    ),
    (
        "up = models.ForeignKey('self', models.CASCADE, db_index=False, related_name='+')",
        "@ManyToOne(() => T, { nullable: false, onDelete: 'CASCADE' })\n\
         @JoinColumn({ name: 'up_id' })\nup!: T;",
        "strengthened: on deletion the application acted (cascade)",
    ),
    (
        "up = models.ForeignKey('self', models.CASCADE, db_constraint=False, related_name='+')",
        "@Index()\n@ManyToOne(() => T, { nullable: false, createForeignKeyConstraints: false })\n\
         @JoinColumn({ name: 'up_id' })\nup!: T;",
        "dropped: the application no longer acts on deletion, and no foreign key does (cascade)",
    ),
    (
        "a = models.IntegerField()\nb = models.GeneratedField(expression=F('a') * 2, \
         output_field=models.IntegerField(), db_persist=True)",
        "@Column()\na!: number;\n\
         @Column({ type: 'integer', asExpression: '`a` * 2', generatedType: 'STORED' })\n\
         b!: number | null;",
        "",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    indexes = [models.Index(fields=['a'], \
         name='some', condition=Q(a__gt=3))]",
        "@Index('some', ['a'])\n@Column()\na!: number;",
        "",
    ),
    (
        "a = models.IntegerField()\n\
         class Meta:\n    constraints = [models.UniqueConstraint(fields=['a'], name='some', \
         condition=Q(a__gt=3))]",
        "@Column()\na!: number;",
        "",
    ),
    (
        "a = models.IntegerField()\n\
         class Meta:\n    constraints = [models.CheckConstraint(condition=Q(a__gt=3), \
         name='deep')]",
        "@Column()\na!: number;",
        "moved: TypeORM makes no checks on this server",
    ),
    (
        "a = models.CharField(max_length=9)\n\
         class Meta:\n    indexes = [models.Index(Lower('a'), name='low'), \
         models.Index(fields=['-a'], name='down')]",
        "@Column({ length: 9 })\na!: string;",
        "moved: TypeORM cannot say a descending key of an index",
    ),
];

pub(crate) const TYPEORM: &[Crossing] = &[
    ("@Column() a!: string;", "a = models.CharField(max_length=255)", ""),
    ("@Column() a!: boolean;", "a = models.BooleanField()", ""),
    (
        "@Column() a!: Date;",
        "a = models.DateTimeField()",
        "respelled: Django cannot say `timestamp` on this server",
    ),
    (
        "@Column({ type: 'int', unsigned: true }) a!: number;",
        "a = models.PositiveIntegerField()",
        "added: Django refuses negative numbers of such a column by itself\n\
         added: the framework checks such a column by itself",
    ),
    (
        "@Column('tinyint') a!: number;",
        "a = models.SmallIntegerField()",
        "respelled: Django cannot say `native(tinyint)` on this server",
    ),
    (
        "@Column('mediumint') a!: number;",
        "a = models.IntegerField()",
        "respelled: Django cannot say `native(mediumint)` on this server",
    ),
    (
        "@Column('decimal') a!: string;",
        "a = models.DecimalField(max_digits=10, decimal_places=0)",
        "",
    ),
    (
        "@Column({ type: 'decimal', precision: 9, scale: 2, default: 1.5 }) a!: string;",
        "a = models.DecimalField(max_digits=9, decimal_places=2, db_default=Decimal(\"1.5\"))",
        "",
    ),
    (
        "@Column('text') a!: string;",
        "a = models.TextField()",
        "respelled: MariaDB keeps the name that a framework gives to a type",
    ),
    ("@Column('longtext') a!: string;", "a = models.TextField()", ""),
    (
        "@Column({ type: 'varbinary', length: 16 }) a!: Buffer;",
        "a = models.BinaryField()",
        "weakened: Django cannot say `binary(16)` on this server",
    ),
    (
        "@Column('timestamp') a!: Date;",
        "a = models.DateTimeField()",
        "respelled: MariaDB keeps the name that a framework gives to a type",
    ),
    (
        "@Column({ type: 'datetime', precision: 6, default: () => 'CURRENT_TIMESTAMP(6)', \
         onUpdate: 'CURRENT_TIMESTAMP(6)' }) a!: Date;",
        "a = models.DateTimeField(db_default=Now())",
        "weakened: Django does not tell the database to set a value at an update\n\
         respelled: Django has another word for `datetime(6)`\n\
         respelled: this server has no such function",
    ),
    (
        "@CreateDateColumn() a!: Date;",
        "a = models.DateTimeField(auto_now_add=True, db_default=Now())",
        "added: Django fills in times of creation and update in its own way\n\
         respelled: Django has another word for `datetime(6)`\n\
         respelled: this server has no such function",
    ),
    (
        "@UpdateDateColumn() a!: Date;",
        "a = models.DateTimeField(auto_now=True, db_default=Now())",
        "weakened: Django does not tell the database to set a value at an update\n\
         added: Django fills in times of creation and update in its own way\n\
         respelled: Django has another word for `datetime(6)`\n\
         respelled: this server has no such function",
    ),
    (
        "@DeleteDateColumn() a!: Date | null;",
        "a = models.DateTimeField(null=True, blank=True)",
        "weakened: Django does not leave out records that are marked as deleted\n\
         weakened: Django does not keep such a column by itself\n\
         respelled: Django has another word for `datetime(6)`",
    ),
    ("@Column('uuid') a!: string;", "a = models.UUIDField()", ""),
    (
        "@Column({ type: 'json', nullable: true }) a!: object | null;",
        "a = models.JSONField(null=True, blank=True)",
        "respelled: Django has another word for `json`",
    ),
    (
        "@Column({ type: 'enum', enum: ['port', 'starboard'], default: 'port' }) a!: string;",
        "a = models.CharField(\nmax_length=16,\ndb_default=\"port\",\n\
         choices=[(\"port\", \"port\"), (\"starboard\", \"starboard\")],\n)",
        "weakened: Django has no enumeration types of the database\n\
         added: choices need a text to show",
    ),
    (
        "@Column('simple-array') a!: string[];",
        "a = models.TextField()",
        "dropped: Django does not check text formats\n\
         respelled: MariaDB keeps the name that a framework gives to a type",
    ),
    (
        "@Column({ default: () => \"'it''s'\" }) a!: string;",
        "a = models.CharField(max_length=255, db_default=\"it's\")",
        "",
    ),
    (
        "@Column({ asExpression: '`id` * 2', type: 'int', nullable: true }) a!: number | null;",
        "a = models.GeneratedField(\nexpression=models.F(\"id\") * 2,\n\
         output_field=models.IntegerField(),\ndb_persist=False,\n)",
        "",
    ),
    (
        "@ManyToOne(() => T, { onDelete: 'CASCADE' }) up!: T | null;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.CASCADE,\nrelated_name=\"+\",\n\
         null=True,\nblank=True,\ndb_column=\"upId\",\n)",
        "weakened: Django acts on deletion in the application, not in the database",
    ),
    (
        "@ManyToOne(() => T, { createForeignKeyConstraints: false }) up!: T | null;",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.DO_NOTHING,\nrelated_name=\"+\",\n\
         db_constraint=False,\nnull=True,\nblank=True,\ndb_index=False,\ndb_column=\"upId\",\n)",
        "added: Django says for each relation what the application does on deletion",
    ),
    ("@Index() @Column() a!: number;", "a = models.IntegerField(db_index=True)", ""),
    (
        "@Index({ where: '`a` > 3' }) @Column() a!: number;",
        "a = models.IntegerField(db_index=True)",
        "",
    ),
    (
        "@Index({ unique: true }) @Column() a!: number;",
        "a = models.IntegerField(unique=True)",
        "respelled: Django makes unique constraints, not plain unique indexes",
    ),
];

pub(crate) const SCRIPTS_TO_DJANGO: &[Crossing] = &[
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a varchar(40) NOT NULL)",
        "a = models.CharField(max_length=40)",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a text)",
        "a = models.TextField(null=True, blank=True)",
        "respelled: MariaDB keeps the name that a framework gives to a type",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a longtext NOT NULL)",
        "a = models.TextField()",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a tinyint(1) NOT NULL DEFAULT 1)",
        "a = models.BooleanField(db_default=True)",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a tinyint)",
        "a = models.SmallIntegerField(null=True, blank=True)",
        "respelled: Django cannot say `native(tinyint)` on this server",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a mediumint unsigned NOT NULL)",
        "a = models.PositiveIntegerField()",
        "added: Django refuses negative numbers of such a column by itself\n\
         added: the framework checks such a column by itself\n\
         respelled: Django cannot say `native(mediumint unsigned)` on this server",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a int unsigned NOT NULL)",
        "a = models.PositiveIntegerField()",
        "added: Django refuses negative numbers of such a column by itself\n\
         added: the framework checks such a column by itself",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a bigint unsigned)",
        "a = models.PositiveBigIntegerField(null=True, blank=True)",
        "added: Django refuses negative numbers of such a column by itself\n\
         added: the framework checks such a column by itself",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a decimal(9,2) NOT NULL DEFAULT 1.50)",
        "a = models.DecimalField(max_digits=9, decimal_places=2, db_default=Decimal(\"1.5\"))",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a float)",
        "a = models.FloatField(null=True, blank=True)",
        "strengthened: Django cannot say `real` on this server",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a double NOT NULL)",
        "a = models.FloatField()",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a date)",
        "a = models.DateField(null=True, blank=True)",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a time(3))",
        "a = models.TimeField(null=True, blank=True)",
        "strengthened: Django cannot say `time(3)` on this server",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a datetime NOT NULL)",
        "a = models.DateTimeField()",
        "respelled: Django cannot say `timestamp` on this server",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a datetime(6) NOT NULL DEFAULT \
         CURRENT_TIMESTAMP(6))",
        "a = models.DateTimeField(db_default=Now())",
        "respelled: Django has another word for `datetime(6)`\n\
         respelled: this server has no such function",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a timestamp NOT NULL DEFAULT \
         CURRENT_TIMESTAMP ON UPDATE CURRENT_TIMESTAMP)",
        "a = models.DateTimeField(db_default=Now())",
        "weakened: Django does not tell the database to set a value at an update\n\
         respelled: MariaDB keeps the name that a framework gives to a type\n\
         respelled: this server has no such function",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a year)",
        "a = models.SmallIntegerField(null=True, blank=True)",
        "respelled: Django cannot say `native(year)` on this server",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a char(3))",
        "a = models.CharField(max_length=3, null=True, blank=True)",
        "respelled: Django cannot say `char(3)` on this server",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a varbinary(16))",
        "a = models.BinaryField(null=True, blank=True)",
        "weakened: Django cannot say `binary(16)` on this server",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a blob)",
        "a = models.BinaryField(null=True, blank=True)",
        "respelled: MariaDB keeps the name that a framework gives to a type",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a json NOT NULL)",
        "a = models.JSONField()",
        "respelled: Django has another word for `json`",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a enum('port','starboard') NOT NULL \
         DEFAULT 'port')",
        "a = models.CharField(\nmax_length=16,\ndb_default=\"port\",\n\
         choices=[(\"port\", \"port\"), (\"starboard\", \"starboard\")],\n)",
        "weakened: Django has no enumeration types of the database\n\
         added: choices need a text to show",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a uuid NOT NULL)",
        "a = models.UUIDField()",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a varchar(9) COMMENT 'depth')",
        "a = models.CharField(max_length=9, null=True, blank=True, db_comment=\"depth\")",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a int, b int AS (a * 2) STORED)",
        "a = models.IntegerField(null=True, blank=True)\nb = models.GeneratedField(\n\
         expression=models.F(\"a\") * 2,\noutput_field=models.IntegerField(),\n\
         db_persist=True,\n)",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a int, b varchar(9) AS (concat(a, \
         'x')) VIRTUAL)",
        "a = models.IntegerField(null=True, blank=True)\nb = models.GeneratedField(\n\
         expression=Concat(\"a\", models.Value(\"x\")),\n\
         output_field=models.CharField(max_length=9),\ndb_persist=False,\n)",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a int CHECK (a > 0))",
        "a = models.IntegerField(null=True, blank=True)\n\
         constraints = [models.CheckConstraint(condition=models.Q(a__gt=0), name=\"t_check1\")]",
        "added: a check must have a name",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a int, KEY deep (a DESC))",
        "a = models.IntegerField(null=True, blank=True)\n\
         indexes = [models.Index(fields=[\"-a\"], name=\"deep\")]",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a varchar(9), UNIQUE KEY one (a))",
        "a = models.CharField(max_length=9, null=True, blank=True)\n\
         constraints = [models.UniqueConstraint(fields=[\"a\"], name=\"one\")]",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a int, b int, UNIQUE KEY (a, b))",
        "a = models.IntegerField(null=True, blank=True)\n\
         b = models.IntegerField(null=True, blank=True)\nunique_together = [[\"a\", \"b\"]]",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a text, KEY beginning (a(10)))",
        "a = models.TextField(null=True, blank=True)",
        "dropped: MariaDB indexes only the beginning of a text without a bound\n\
         respelled: MariaDB keeps the name that a framework gives to a type",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a varchar(9) COLLATE utf8mb4_bin)",
        "a = models.CharField(max_length=9, null=True, blank=True, db_collation=\"utf8mb4_bin\")",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, up_id int NOT NULL, FOREIGN KEY \
         (up_id) REFERENCES t (id) ON DELETE CASCADE)",
        "up = models.ForeignKey(\"T\", on_delete=models.CASCADE, related_name=\"up_ts\")",
        "weakened: Django acts on deletion in the application, not in the database",
    ),
    (
        "CREATE TABLE t (id bigint unsigned AUTO_INCREMENT PRIMARY KEY, up_id bigint unsigned, \
         FOREIGN KEY (up_id) REFERENCES t (id) ON DELETE SET NULL)",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.SET_NULL,\nrelated_name=\"up_ts\",\n\
         null=True,\nblank=True,\n)",
        "weakened: Django acts on deletion in the application, not in the database\n\
         respelled: Django cannot say `unsigned bigint` on this server\n\
         respelled: the column follows the type of the key that it refers to",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, up_id int, UNIQUE KEY (up_id), \
         FOREIGN KEY (up_id) REFERENCES t (id))",
        "up = models.OneToOneField(\n\"T\",\non_delete=models.DO_NOTHING,\n\
         related_name=\"up_t\",\nnull=True,\nblank=True,\n)",
        "added: Django says for each relation what the application does on deletion",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY) COMMENT='ships'",
        "db_table_comment = \"ships\"",
        "",
    ),
];

pub(crate) const SCRIPTS_TO_TYPEORM: &[Crossing] = &[
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a varchar(40) NOT NULL)",
        "@Entity()\n@Column({ length: 40 })\na!: string;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a text)",
        "@Entity()\n@Column({ type: 'text', nullable: true })\na!: string | null;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a longtext NOT NULL)",
        "@Entity()\n@Column({ type: 'longtext' })\na!: string;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a tinyint(1) NOT NULL DEFAULT 1)",
        "@Entity()\n@Column({ default: true })\na!: boolean;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a tinyint)",
        "@Entity()\n@Column({ type: 'tinyint', nullable: true })\na!: number | null;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a mediumint unsigned NOT NULL)",
        "@Entity()\n@Column({ type: 'mediumint', unsigned: true })\na!: number;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a int unsigned NOT NULL)",
        "@Entity()\n@Column({ unsigned: true })\na!: number;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a bigint unsigned)",
        "@Entity()\n@Column({ type: 'bigint', unsigned: true, nullable: true })\na!: \
             string | null;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a decimal(9,2) NOT NULL DEFAULT 1.50)",
        "@Entity()\n@Column({ type: 'decimal', precision: 9, scale: 2, default: '1.5' })\n\
         a!: string;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a float)",
        "@Entity()\n@Column({ type: 'float', nullable: true })\na!: number | null;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a double NOT NULL)",
        "@Entity()\n@Column({ type: 'double' })\na!: number;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a date)",
        "@Entity()\n@Column({ type: 'date', nullable: true })\na!: string | null;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a time(3))",
        "@Entity()\n@Column({ type: 'time', precision: 3, nullable: true })\na!: string | null;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a datetime NOT NULL)",
        "@Entity()\n@Column()\na!: Date;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a datetime(6) NOT NULL DEFAULT \
         CURRENT_TIMESTAMP(6))",
        "@Entity()\n@Column({ precision: 6, default: () => 'CURRENT_TIMESTAMP(6)' })\na!: Date;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a timestamp NOT NULL DEFAULT \
         CURRENT_TIMESTAMP ON UPDATE CURRENT_TIMESTAMP)",
        "@Entity()\n\
         @Column({ type: 'timestamp', default: () => 'CURRENT_TIMESTAMP', \
         onUpdate: 'CURRENT_TIMESTAMP' })\n\
             a!: Date;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a year)",
        "@Entity()\n@Column({ type: 'year', nullable: true })\na!: number | null;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a char(3))",
        "@Entity()\n@Column({ type: 'char', length: 3, nullable: true })\na!: string | null;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a varbinary(16))",
        "@Entity()\n@Column({ type: 'varbinary', length: 16, nullable: true })\na!: Buffer | null;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a blob)",
        "@Entity()\n@Column({ type: 'blob', nullable: true })\na!: Buffer | null;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a json NOT NULL)",
        "@Entity()\n@Column({ type: 'json' })\na!: unknown;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a enum('port','starboard') NOT NULL \
         DEFAULT 'port')",
        "@Entity()\n@Column({ type: 'enum', enum: ['port', 'starboard'], default: 'port' })\n\
         a!: 'port' | 'starboard';",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a uuid NOT NULL)",
        "@Entity()\n@Column({ type: 'uuid' })\na!: string;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a varchar(9) COMMENT 'depth')",
        "@Entity()\n@Column({ type: 'varchar', length: 9, nullable: true, comment: 'depth' })\n\
         a!: string | null;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a int, b int AS (a * 2) STORED)",
        "@Entity()\n@Column({ type: 'integer', nullable: true })\na!: number | null;\n\
         @Column({ type: 'integer', asExpression: '`a` * 2', generatedType: 'STORED' })\n\
         b!: number | null;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a int, b varchar(9) AS (concat(a, \
         'x')) VIRTUAL)",
        "@Entity()\n@Column({ type: 'integer', nullable: true })\na!: number | null;\n@Column({\n\
         type: 'varchar',\nlength: 9,\nasExpression: 'concat(`a`, \\'x\\')',\n\
         generatedType: 'VIRTUAL',\n})\nb!: string | null;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a int CHECK (a > 0))",
        "@Entity()\n@Column({ type: 'integer', nullable: true })\na!: number | null;",
        "moved: TypeORM makes no checks on this server",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a int, KEY deep (a DESC))",
        "@Entity()\n@Column({ type: 'integer', nullable: true })\na!: number | null;",
        "moved: TypeORM cannot say a descending key of an index",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a varchar(9), UNIQUE KEY one (a))",
        "@Entity()\n@Unique('one', ['a'])\n\
         @Column({ type: 'varchar', length: 9, nullable: true })\na!: string | null;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a int, b int, UNIQUE KEY (a, b))",
        "@Entity()\n@Unique(['a', 'b'])\n@Column({ type: 'integer', nullable: true })\n\
         a!: number | null;\n@Column({ type: 'integer', nullable: true })\nb!: number | null;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a text, KEY beginning (a(10)))",
        "@Entity()\n@Column({ type: 'text', nullable: true })\na!: string | null;",
        "dropped: MariaDB indexes only the beginning of a text without a bound",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a varchar(9) COLLATE utf8mb4_bin)",
        "@Entity()\n\
         @Column({ type: 'varchar', length: 9, nullable: true, collation: 'utf8mb4_bin' })\n\
         a!: string | null;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, up_id int NOT NULL, FOREIGN KEY \
         (up_id) REFERENCES t (id) ON DELETE CASCADE)",
        "@Entity()\n\
         @ManyToOne(() => T, (t) => t.upTs, { nullable: false, onDelete: 'CASCADE' })\n\
         @JoinColumn({ name: 'up_id' })\nup!: T;\n@OneToMany(() => T, (t) => t.up)\nupTs!: T[];",
        "",
    ),
    (
        "CREATE TABLE t (id bigint unsigned AUTO_INCREMENT PRIMARY KEY, up_id bigint unsigned, \
         FOREIGN KEY (up_id) REFERENCES t (id) ON DELETE SET NULL)",
        "@Entity()\n@PrimaryGeneratedColumn({ type: 'bigint', unsigned: true })\nid!: string;\n\
         @ManyToOne(() => T, (t) => t.upTs, { onDelete: 'SET NULL' })\n\
         @JoinColumn({ name: 'up_id' })\nup!: T | null;\n@OneToMany(() => T, (t) => t.up)\n\
         upTs!: T[];",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, up_id int, UNIQUE KEY (up_id), \
         FOREIGN KEY (up_id) REFERENCES t (id))",
        "@Entity()\n@OneToOne(() => T, (t) => t.upT)\n@JoinColumn({ name: 'up_id' })\n\
         up!: T | null;\n@OneToOne(() => T, (t) => t.up)\nupT!: T | null;",
        "",
    ),
    (
        "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY) COMMENT='ships'",
        "@Entity({ comment: 'ships' })",
        "",
    ),
];
