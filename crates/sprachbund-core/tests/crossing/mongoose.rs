//! Between tables and documents.

use super::Crossing;

pub(crate) const DJANGO: &[Crossing] = &[
    (
        "a = models.CharField(max_length=9)",
        "a: { type: String, required: true, maxlength: 9 },",
        "weakened: MongoDB holds no NOT NULL\nweakened: MongoDB holds no length and no limit",
    ),
    (
        "a = models.CharField(max_length=9, null=True, blank=True, unique=True)",
        "a: { type: String, maxlength: 9, unique: true, sparse: true },",
        "dropped: an index serves comparisons with patterns, too\n\
         weakened: MongoDB holds no length and no limit\n\
         respelled: what is unique is kept so by an index",
    ),
    (
        "a = models.PositiveIntegerField(default=3)",
        "a: { type: Number, required: true, min: 0, default: 3 },",
        "weakened: MongoDB holds no checks\nweakened: Mongoose checks the limits of a Number \
         only\nweakened: MongoDB holds no NOT NULL\nrespelled: the type is a Number",
    ),
    (
        "a = models.DecimalField(max_digits=8, decimal_places=2, db_default=Decimal('1.50'))",
        "a: { type: Schema.Types.Decimal128, required: true, default: '1.50' },",
        "weakened: MongoDB holds no NOT NULL\nweakened: MongoDB has no defaults\n\
         added: MongoDB has no defaults",
    ),
    (
        "a = models.DateTimeField(auto_now=True)",
        "}, { timestamps: { createdAt: false, updatedAt: 'a' }, versionKey: false });",
        "weakened: MongoDB holds no NOT NULL",
    ),
    (
        "a = models.ForeignKey('self', on_delete=models.CASCADE, null=True, blank=True)",
        "a_id: { type: Schema.Types.Int32, ref: 'T', alias: 'a', index: true },\n\
         tSchema.virtual('ts', { ref: 'T', localField: '_id', foreignField: 'a_id' });",
        "dropped: the framework does nothing on deletion\nweakened: MongoDB holds no references",
    ),
    (
        "a = models.IntegerField(choices=[(1, 'One')])",
        "a: { type: Number, required: true, enum: [1] },",
        "dropped: members of an enumeration have no texts to show\n\
         weakened: MongoDB holds no NOT NULL",
    ),
    (
        "a = ArrayField(models.CharField(max_length=3))",
        "a: { type: [String], required: true, default: undefined },",
        "weakened: MongoDB holds no NOT NULL",
    ),
    (
        "a = models.IntegerField()
b = models.IntegerField(null=True)
class Meta:
    unique_together = [['a', 'b']]",
        "a: { type: Schema.Types.Int32, required: true },\nb: Schema.Types.Int32,\n\
         tSchema.index({ a: 1, b: 1 }, { unique: true });",
        "weakened: MongoDB holds no NOT NULL\nstrengthened: in an index over several paths \
         MongoDB takes a missing value for a value\n\
         respelled: what is unique is kept so by an index",
    ),
    (
        "a = models.IntegerField(unique=True)\n\
         class Meta:\n    indexes = [models.Index(fields=['a'], name='again')]",
        "a: { type: Schema.Types.Int32, required: true, unique: true },",
        "dropped: what is unique is indexed\nweakened: MongoDB holds no NOT NULL\n\
         respelled: what is unique is kept so by an index",
    ),
    (
        "a = models.IntegerField()\nclass Meta:\n    indexes = [models.Index(fields=['-a'], \
         name='down', condition=Q(a__gt=2))]",
        "a: { type: Schema.Types.Int32, required: true },\n\
         tSchema.index({ a: -1 }, { name: 'down', partialFilterExpression: { a: { $gt: 2 } } \
         });",
        "weakened: MongoDB holds no NOT NULL",
    ),
];

pub(crate) const TO_DJANGO: &[Crossing] = &[
    (
        "a: { type: String, required: true, maxlength: 9, unique: true }",
        "a = models.CharField(max_length=9, unique=True)",
        "added: an indexed text gets a second index for patterns\n\
         strengthened: what the application requires, the column holds\n\
         strengthened: a length is a part of the column's type\n\
         respelled: Django cannot say `char(24)` on this server\n\
         respelled: a database of tables has other types\n\
         respelled: uniqueness is kept by another object of the database",
    ),
    (
        "a: { type: String, unique: true }",
        "a = models.TextField(null=True, blank=True)\n\
         constraints = [models.UniqueConstraint(fields=[\"a\"], name=\"t_uniq1\", \
         nulls_distinct=False)]",
        "added: such a unique constraint must have a name\n\
         added: an indexed text gets a second index for patterns\n\
         respelled: Django cannot say `char(24)` on this server\n\
         respelled: uniqueness is kept by another object of the database",
    ),
    (
        "a: [{ type: Schema.Types.ObjectId, ref: 'T' }]",
        "a = models.ManyToManyField(\n\"T\",\nrelated_name=\"+\",\nthrough=\"TA\",\n\
         symmetrical=False,\nthrough_fields=[\"from_t\", \"to_t\"],\n)\n\
         class TA(models.Model):\npk = models.CompositePrimaryKey(\"from_t_id\", \"to_t_id\")\n\
         from_t = models.ForeignKey(\nT,\non_delete=models.CASCADE,\n\
         related_name=\"t_as_from_t\",\ndb_index=False,\ndb_column=\"t_id\",\n)\n\
         to_t = models.ForeignKey(\nT,\non_delete=models.CASCADE,\nrelated_name=\"t_as_to_t\",\n\
         db_index=False,\ndb_column=\"t_id2\",\n)\ndb_table = \"t_a\"",
        "weakened: Django acts on deletion in the application, not in the database\n\
         added: the join table `t_a` has a shape that Django would not give it\n\
         added: a join to itself by a class names its two references\n\
         added: Django has every foreign key checked at commit\n\
         added: an indexed text gets a second index for patterns\n\
         respelled: a table holds no lists of references\n\
         respelled: Django cannot say `char(24)` on this server",
    ),
    (
        "a: { x: { type: Number, required: true } }",
        "class TA(models.Model):\nt = models.OneToOneField(T, on_delete=models.CASCADE, \
         related_name=\"a\", primary_key=True)\nx = models.FloatField()\ndb_table = \"t_a\"",
        "weakened: Django acts on deletion in the application, not in the database\n\
         added: Django has every foreign key checked at commit\n\
         added: an indexed text gets a second index for patterns\n\
         respelled: a table holds no documents\n\
         respelled: Django cannot say `char(24)` on this server",
    ),
    (
        "a: [{ x: String }]",
        "class TA(models.Model):\nt = models.ForeignKey(T, on_delete=models.CASCADE, \
         related_name=\"a\")\nx = models.TextField(null=True, blank=True)\ndb_table = \"t_a\"",
        "weakened: Django acts on deletion in the application, not in the database\n\
         added: Django has every foreign key checked at commit\n\
         added: an indexed text gets a second index for patterns\n\
         respelled: a table holds no documents\n\
         respelled: Django cannot say `char(24)` on this server",
    ),
    (
        "a: { type: Date, expires: 60 }",
        "a = models.DateTimeField(null=True, blank=True)",
        "dropped: no other database deletes what is too old by an index\n\
         added: an indexed text gets a second index for patterns\n\
         strengthened: Django cannot say `timestamp(3) with time zone` on this server\n\
         respelled: Django cannot say `char(24)` on this server",
    ),
    (
        "a: { type: Schema.Types.ObjectId, ref: 'T', index: true }",
        "a = models.ForeignKey(\n\"T\",\non_delete=models.DO_NOTHING,\nrelated_name=\"+\",\n\
         null=True,\nblank=True,\ndb_column=\"a\",\n)",
        "added: Django says for each relation what the application does on deletion\n\
         added: Django has every foreign key checked at commit\n\
         added: an indexed text gets a second index for patterns\n\
         strengthened: the database holds references\n\
         respelled: Django cannot say `char(24)` on this server",
    ),
];

pub(crate) const TO_SQL: &[Crossing] = &[
    (
        "a: { type: String, required: true, maxlength: 9 }",
        "CREATE TABLE \"t\" (\n\"_id\" character(24) NOT NULL,\n\
         \"a\" character varying(9) NOT NULL,\nPRIMARY KEY (\"_id\")",
        "dropped: a database has no attributes and classes\n\
         dropped: input is not validated by a database\n\
         dropped: a default that the application fills in is not in the database\n\
         strengthened: what the application requires, the column holds\n\
         strengthened: a length is a part of the column's type\n\
         respelled: a database of tables has other types",
    ),
    (
        "a: [String]",
        "CREATE TABLE \"t\" (\n\"_id\" character(24) NOT NULL,\n\"a\" text[],\n\
             PRIMARY KEY (\"_id\")",
        "dropped: a database has no attributes and classes\n\
         dropped: input is not validated by a database\n\
         dropped: a default that the application fills in is not in the database\n\
         respelled: a database of tables has other types",
    ),
];
