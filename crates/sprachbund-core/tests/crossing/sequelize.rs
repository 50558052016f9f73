//! Constructs that cross to Sequelize and from it.

use super::Crossing;

pub(crate) const DJANGO: &[Crossing] = &[
    (
        "a = models.CharField(max_length=24)",
        "declare a: string;\na: { type: DataTypes.STRING(24), allowNull: false },",
        "",
    ),
    (
        "a = models.CharField(max_length=255, null=True)",
        "declare a: string | null;\na: DataTypes.STRING,",
        "",
    ),
    (
        "a = models.TextField(default='it')",
        "declare a: CreationOptional<string>;\n\
         a: { type: DataTypes.TEXT, allowNull: false, defaultValue: () => 'it' },",
        "",
    ),
    (
        "a = models.DecimalField(max_digits=8, decimal_places=2, db_default=1)",
        "declare a: CreationOptional<string>;\n\
         a: { type: DataTypes.DECIMAL(8, 2), allowNull: false, defaultValue: '1' },",
        "",
    ),
    (
        "a = models.DateTimeField(auto_now_add=True)\n    b = \
         models.DateTimeField(auto_now=True, db_column='changed')",
        "declare a: CreationOptional<Date>;\ndeclare b: CreationOptional<Date>;\n\
         a: { type: DataTypes.DATE, allowNull: false },\n\
         b: { type: DataTypes.DATE, field: 'changed', allowNull: false },\n\
         { sequelize, tableName: 'harbour_t', createdAt: 'a', updatedAt: 'b' },",
        "",
    ),
    (
        "a = models.UUIDField(default=uuid.uuid4)",
        "declare a: CreationOptional<string>;\n\
         a: { type: DataTypes.UUID, allowNull: false, defaultValue: DataTypes.UUIDV4 },",
        "",
    ),
    (
        "a = models.CharField(max_length=9, choices=[('x', 'X')], default='x')",
        "declare a: CreationOptional<'x'>;\na: {\ntype: DataTypes.STRING(9),\nallowNull: false,\n\
         defaultValue: () => 'x',\nvalidate: { isIn: [['x']] },",
        "dropped: members of an enumeration have no texts to show",
    ),
    (
        "a = models.ForeignKey('T', on_delete=models.CASCADE, related_name='bs', null=True)",
        "declare aId: number | null;\ndeclare a?: NonAttribute<T>;\n\
         declare bs?: NonAttribute<T[]>;\naId: {\nfield: 'a_id',\n\
         references: \
         { model: 'harbour_t', key: 'id', deferrable: Deferrable.INITIALLY_DEFERRED() },\n\
         sequelize,\ntableName: 'harbour_t',\ntimestamps: false,\nindexes: [\n\
         { fields: ['a_id'] },\n],\n\
         T.belongsTo(T, \
         { as: 'a', foreignKey: 'aId', onDelete: 'CASCADE', onUpdate: 'NO ACTION' });\n\
         T.hasMany(T, { as: 'bs', foreignKey: 'aId' });",
        "strengthened: on deletion the application acted (cascade)",
    ),
    (
        "a = models.OneToOneField('T', on_delete=models.PROTECT, related_name='+')",
        "declare aId: number;\ndeclare a?: NonAttribute<T>;\naId: {\nfield: 'a_id',\n\
         allowNull: false,\nunique: true,\n\
         references: \
         { model: 'harbour_t', key: 'id', deferrable: Deferrable.INITIALLY_DEFERRED() },\n\
         T.belongsTo(T, \
         { as: 'a', foreignKey: 'aId', onDelete: 'RESTRICT', onUpdate: 'NO ACTION' });",
        "strengthened: on deletion the application acted (protect)",
    ),
    (
        "a = models.ManyToManyField('T', related_name='bs')",
        "declare a?: NonAttribute<T[]>;\ndeclare tAsFromT?: NonAttribute<TA[]>;\n\
         declare tAsToT?: NonAttribute<TA[]>;\nT.belongsToMany(T, {\nas: 'a',\n\
         through: { model: TA, unique: false },\nforeignKey: 'fromTId',\notherKey: 'toTId',\n\
         constraints: false,\n});\nTA.belongsTo(T, {\nas: 'fromT',\nforeignKey: 'fromTId',\n\
         onDelete: 'CASCADE',\nonUpdate: 'NO ACTION',\n});\n\
         TA.belongsTo(T, \
         { as: 'toT', foreignKey: 'toTId', onDelete: 'CASCADE', onUpdate: 'NO ACTION' });\n\
         T.hasMany(TA, { as: 'tAsFromT', foreignKey: 'fromTId' });\n\
         T.hasMany(TA, { as: 'tAsToT', foreignKey: 'toTId' });",
        "dropped: Sequelize has no relation that goes both ways at once\n\
         added: the join table `harbour_t_a` has a shape that Sequelize would not give it\n\
         strengthened: on deletion the application acted (cascade)",
    ),
    (
        "a = models.IntegerField()\n    class Meta:\n        constraints = \
         [models.UniqueConstraint(fields=['a'], name='u')]",
        "declare a: number;\na: { type: DataTypes.INTEGER, allowNull: false },\nsequelize,\n\
         tableName: 'harbour_t',\ntimestamps: false,\nindexes: [\n\
         { name: 'u', unique: true, fields: ['a'] },\n],",
        "respelled: Sequelize gives no name to a unique constraint",
    ),
    (
        "a = models.IntegerField()\n    class Meta:\n        constraints = \
         [models.CheckConstraint(condition=Q(a__gt=1), name='c')]",
        "declare a: number;\na: { type: DataTypes.INTEGER, allowNull: false },",
        "moved: Sequelize makes no checks on this server",
    ),
    (
        "a = models.IntegerField()\n    class Meta:\n        indexes = \
         [models.Index(Lower('a').desc(), name='i', condition=Q(a=1))]",
        "declare a: number;\na: { type: DataTypes.INTEGER, allowNull: false },\nsequelize,\n\
         tableName: 'harbour_t',\ntimestamps: false,\nindexes: [\n\
         { name: 'i', fields: [literal('(lower(\"a\")) DESC')], where: literal('\"a\" = 1') },\n\
         ],",
        "",
    ),
    (
        "a = models.GeneratedField(expression=F('id') * 2, output_field=models.IntegerField(), \
         db_persist=True)",
        "declare a: number | null;\na: DataTypes.INTEGER,",
        "dropped: Sequelize has no generated columns",
    ),
    (
        "a = ArrayField(models.IntegerField())",
        "declare a: number[];\na: { type: DataTypes.ARRAY(DataTypes.INTEGER), allowNull: false },",
        "",
    ),
];

pub(crate) const TO_DJANGO: &[Crossing] = &[
    ("a: DataTypes.STRING", "a = models.CharField(max_length=255, null=True, blank=True)", ""),
    (
        "a: { type: DataTypes.ENUM('low', 'high'), allowNull: false, defaultValue: 'low' }",
        "a = models.CharField(\nmax_length=16,\ndb_default=\"low\",\n\
         choices=[(\"low\", \"low\"), (\"high\", \"high\")],\n)",
        "weakened: Django has no enumeration types of the database\n\
         added: choices need a text to show",
    ),
    (
        "a: { type: DataTypes.INTEGER, unique: 'pair' }, b: \
             { type: DataTypes.INTEGER, unique: 'pair' }",
        "a = models.IntegerField(null=True, blank=True)\n\
         b = models.IntegerField(null=True, blank=True)\nunique_together = [[\"a\", \"b\"]]",
        "",
    ),
    (
        "a: { type: DataTypes.JSONB, allowNull: false, defaultValue: {} }",
        "a = models.JSONField(db_default={})",
        "",
    ),
    (
        "a: { type: DataTypes.DATE, defaultValue: DataTypes.NOW, validate: \
         { isAfter: '2020-01-01' } }",
        "a = models.DateTimeField(null=True, blank=True, default=timezone.now)",
        "dropped: `validate` has no meaning outside its own framework",
    ),
    (
        "a: { type: DataTypes.INTEGER, references: { model: 't', key: 'id' }, \
             onDelete: 'SET NULL' }",
        "a = models.ForeignKey(\n\"T\",\non_delete=models.SET_NULL,\nrelated_name=\"+\",\n\
         null=True,\nblank=True,\ndb_index=False,\ndb_column=\"a\",\n)",
        "weakened: Django acts on deletion in the application, not in the database\n\
         added: Django has every foreign key checked at commit",
    ),
];

pub(crate) const DJANGO_ON_SQLITE: &[Crossing] = &[
    (
        "a = models.CharField(max_length=9, choices=[('x', 'X')])",
        "declare a: 'x';\na: { type: DataTypes.STRING(9), allowNull: false, validate: \
         { isIn: [['x']] } },",
        "dropped: members of an enumeration have no texts to show\n\
         respelled: SQLite keeps the name that a framework gives to a type\n\
         respelled: SQLite keeps the name that a framework gives to a type",
    ),
    (
        "a = models.BooleanField(db_default=True)",
        "declare a: CreationOptional<boolean>;\n\
         a: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: true },",
        "respelled: SQLite keeps the name that a framework gives to a type\n\
         respelled: SQLite keeps the name that a framework gives to a type",
    ),
    (
        "a = models.JSONField(default=dict)",
        "declare a: CreationOptional<unknown>;\na: { type: DataTypes.JSONB, allowNull: false, \
         defaultValue: () => ({}) },",
        "dropped: Sequelize makes no checks on this server\n\
         respelled: SQLite keeps the name that a framework gives to a type\n\
         respelled: SQLite keeps the name that a framework gives to a type",
    ),
];
