//! Constructs that cross to Prisma and from it.

use super::Crossing;

pub(crate) const DJANGO: &[Crossing] = &[
    (
        "a = models.DateTimeField(auto_now_add=True)",
        "a DateTime @default(now()) @db.Timestamptz",
        "strengthened: Prisma has no word for such a default of the application\n\
         respelled: Prisma has no word for the time of creation",
    ),
    ("a = models.DateTimeField(auto_now=True)", "a DateTime @updatedAt @db.Timestamptz", ""),
    ("a = models.UUIDField(default=uuid.uuid4)", "a String @default(uuid()) @db.Uuid", ""),
    (
        "a = models.IntegerField(default=3)",
        "a Int @default(3)",
        "strengthened: Prisma has no word for such a default of the application",
    ),
    (
        "a = models.CharField(max_length=9, choices=[('x', 'X')], default='x')",
        "a String @default(\"x\") @db.VarChar(9)",
        "dropped: Prisma restricts a column to a list of values only by a type of the database\n\
         dropped: no column uses this enumeration any more\n\
         strengthened: Prisma has no word for such a default of the application",
    ),
    (
        "a = models.ForeignKey('T', on_delete=models.PROTECT, related_name='+', null=True)",
        "aId Int? @map(\"a_id\")\na T? @relation(\"TA\", fields: [aId], references: [id], \
         onDelete: Restrict, onUpdate: NoAction)\nts T[] @relation(\"TA\")\n@@index([aId])",
        "strengthened: on deletion the application acted (protect)\n\
         strengthened: a foreign key cannot be checked at commit here",
    ),
    (
        "a = models.ManyToManyField('T', related_name='bs')",
        "tAsFromT TA[] @relation(\"TAFromT\")\ntAsToT TA[] @relation(\"TAToT\")\nmodel TA {\n\
         fromTId Int @map(\"from_t_id\")\ntoTId Int @map(\"to_t_id\")\n\
         fromT T @relation(\"TAFromT\", fields: [fromTId], references: [id], onDelete: \
         Cascade, onUpdate: NoAction)\ntoT T @relation(\"TAToT\", fields: [toTId], references: \
         [id], onDelete: Cascade, onUpdate: NoAction)\n@@unique([fromTId, toTId])\n\
         @@index([fromTId])\n@@index([toTId])\n@@map(\"harbour_t_a\")",
        "dropped: Prisma has no relation that goes both ways at once\n\
         added: the join table `harbour_t_a` has a shape that Prisma would not give it\n\
         strengthened: on deletion the application acted (cascade)\n\
         strengthened: a foreign key cannot be checked at commit here\n\
         respelled: Prisma joins two tables only by a join table of its own shape\n\
         respelled: uniqueness is kept by another object of the database",
    ),
    (
        "a = models.IntegerField(db_index=True)\n\
         class Meta:\n    constraints = [models.CheckConstraint(condition=Q(a__gt=1), \
         name='c')]",
        "a Int\n@@index([a])",
        "moved: Prisma makes no checks on this server",
    ),
    (
        "a = models.CharField(max_length=5)\nclass Meta:\n    indexes = [models.Index('a', \
         name='i', condition=Q(a='x'))]",
        "a String @db.VarChar(5)",
        "moved: Prisma cannot say a condition of an index",
    ),
    ("a = IntegerRangeField(null=True)", "a Unsupported(\"int4range\")?", ""),
    (
        "a = models.GeneratedField(expression=F('id') * 2, output_field=models.IntegerField(), \
         db_persist=True)",
        "a Int?",
        "dropped: Prisma has no generated columns",
    ),
    (
        "a = ArrayField(models.IntegerField())",
        "a Int[]",
        "weakened: Prisma cannot say NOT NULL of an array",
    ),
    ("_a = models.IntegerField(db_column='class')", "a Int @map(\"class\")", ""),
];

pub(crate) const TYPEORM_CLASSES: &[Crossing] = &[
    (
        "@Entity() export class T { ID @ManyToOne(() => T, \
         { onDelete: 'SET NULL', nullable: false }) up!: T; }",
        "upId Int\nup T @relation(\"TUp\", fields: [upId], references: [id], onDelete: SetNull, \
         onUpdate: NoAction)\nts T[] @relation(\"TUp\")\n@@map(\"t\")",
        "",
    ),
    (
        "@Entity() @Check('c', '\"id\" > 1') export class T \
             { ID @DeleteDateColumn() gone!: Date | null; }",
        "gone DateTime? @db.Timestamp\n@@map(\"t\")",
        "weakened: Prisma does not leave out records that are marked as deleted\n\
         weakened: Prisma does not keep such a column by itself\n\
         moved: Prisma makes no checks on this server",
    ),
    (
        "@Entity() export class T { ID @Column() model!: string; \
         @Column({ comment: 'c', type: 'bigint', unsigned: true }) b!: string; }",
        "model String @db.VarChar\nb BigInt\n@@map(\"t\")",
        "moved: the comment of a column cannot be said",
    ),
];

pub(crate) const DJANGO_ON_SQLITE: &[Crossing] = &[
    (
        "a = models.JSONField(default=dict)",
        "a Json @default(dbgenerated(\"'{}'\"))",
        "dropped: Prisma makes no checks on this server\n\
         strengthened: Prisma has no word for such a default of the application\n\
         respelled: SQLite keeps the name that a framework gives to a type\n\
         respelled: SQLite keeps the name that a framework gives to a type",
    ),
    (
        "a = models.DecimalField(max_digits=9, decimal_places=2)",
        "a Decimal",
        "weakened: Prisma cannot say `numeric(9,2)` on this server\n\
         respelled: SQLite keeps the name that a framework gives to a type",
    ),
    (
        "a = models.CharField(max_length=9, choices=[('x', 'X')])",
        "a TA",
        "dropped: members of an enumeration have no texts to show\n\
         weakened: Prisma cannot say `varchar(9)` on this server\n\
         respelled: SQLite keeps the name that a framework gives to a type\n\
         respelled: a list of values must have a name",
    ),
];

pub(crate) const TO_TYPEORM: &[Crossing] = &[
    (
        "a String @default(cuid())",
        "@Column({ type: 'text' })\na!: string;",
        "dropped: the default `cuid()` is code of the source's language",
    ),
    (
        "a Side @default(Port)",
        "@Column({ type: 'enum', enum: Side, enumName: 'Side', default: Side.Port })\na!: Side;",
        "respelled: TypeORM has a name of its own for an enumeration type",
    ),
    ("a Decimal", "@Column({ type: 'numeric', precision: 65, scale: 30 })\na!: string;", ""),
    (
        "a DateTime @updatedAt",
        "@UpdateDateColumn({ precision: 3 })\na!: Date;",
        "strengthened: TypeORM fills in times of creation and update in its own way",
    ),
    (
        "b Int\n  a T @relation(\"Up\", fields: [b], references: [id])\n  c T[] @relation(\"Up\")",
        "@Column()\nb!: number;\n\
         @ManyToOne(() => T, (t) => t.c, { onDelete: 'RESTRICT', onUpdate: 'CASCADE' })\n\
         @JoinColumn({ name: 'b' })\na!: T;\n@OneToMany(() => T, (t) => t.a)\nc!: T[];",
        "",
    ),
    (
        "a String[] @default([\"x\"])",
        "@Column({ type: 'text', array: true, nullable: true, default: ['x'] })\n\
         a!: string[] | null;",
        "",
    ),
];

pub(crate) const TO_DJANGO: &[Crossing] = &[
    (
        "a Side?",
        "a = models.CharField(max_length=16, null=True, blank=True, choices=Side.choices)\n\
         db_table = \"harbour_t\"",
        "weakened: Django has no enumeration types of the database",
    ),
    (
        "b Int?\n  a T? @relation(\"Up\", fields: [b], references: [id])\n  c T[] \
             @relation(\"Up\")",
        "a = models.ForeignKey(\n\"T\",\non_delete=models.SET_NULL,\nrelated_name=\"c\",\n\
         null=True,\nblank=True,\ndb_index=False,\ndb_column=\"b\",\n)\ndb_table = \"harbour_t\"",
        "weakened: Django acts on deletion in the application, not in the database\n\
         added: Django has every foreign key checked at commit",
    ),
    (
        "near T[] @relation(\"Near\")\n  far T[] @relation(\"Near\")",
        "far = models.ManyToManyField(\n\"T\",\nrelated_name=\"near\",\nthrough=\"TFar\",\n\
         symmetrical=False,\nthrough_fields=[\"from_t\", \"to_t\"],\n)\n\
         db_table = \"harbour_t\"\nclass TFar(models.Model):\n\
         pk = models.CompositePrimaryKey(\"from_t_id\", \"to_t_id\")\n\
         from_t = models.ForeignKey(\nT,\non_delete=models.CASCADE,\n\
         related_name=\"t_fars_from_t\",\ndb_index=False,\ndb_column=\"A\",\n)\n\
         to_t = models.ForeignKey(T, on_delete=models.CASCADE, related_name=\"t_fars_to_t\", \
         db_column=\"B\")\ndb_table = \"_Near\"",
        "weakened: Django acts on deletion in the application, not in the database\n\
         added: the join table `_Near` has a shape that Django would not give it\n\
         added: a join to itself by a class names its two references\n\
         added: Django has every foreign key checked at commit",
    ),
    (
        "a String @unique @db.VarChar(9)",
        "a = models.CharField(max_length=9, unique=True)\ndb_table = \"harbour_t\"",
        "added: an indexed text gets a second index for patterns\n\
         respelled: uniqueness is kept by another object of the database",
    ),
];
