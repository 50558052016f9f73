//! Constructs of Sequelize models and migrations.

use sprachbund_core::dialect::Settings;
use sprachbund_core::dialects::by_id;
use sprachbund_core::reading::read;
use sprachbund_core::schema::Database;
use sprachbund_core::schema::facts::facts;

use super::{Files, check_on, reading};

/// One attribute `a` of a model over the table `t`.
const ATTRIBUTES: &[(&str, &[&str])] = &[
    (
        "DataTypes.STRING",
        &["t, column a, type = \"varchar(255)\"", "t, column a, nullable = \"null\""],
    ),
    (
        "{ type: DataTypes.STRING(30), allowNull: false }",
        &["t, column a, type = \"varchar(30)\"", "t, column a, nullable = \"not null\""],
    ),
    ("{ type: Sequelize.STRING({ length: 30 }) }", &["t, column a, type = \"varchar(30)\""]),
    ("DataTypes.STRING.BINARY", &["t, column a, type = \"binary\""]),
    ("DataTypes.CHAR(3)", &["t, column a, type = \"char(3)\""]),
    ("DataTypes.TEXT('tiny')", &["t, column a, type = \"text\""]),
    ("new DataTypes.DECIMAL(10, 2)", &["t, column a, type = \"numeric(10,2)\""]),
    ("DataTypes.INTEGER.UNSIGNED", &["t, column a, type = \"integer\""]),
    ("DataTypes.FLOAT", &["t, column a, type = \"double precision\""]),
    ("DataTypes.DATE(3)", &["t, column a, type = \"timestamp with time zone\""]),
    ("DataTypes.DATEONLY", &["t, column a, type = \"date\""]),
    ("DataTypes.ARRAY(DataTypes.STRING(3))", &["t, column a, type = \"varchar(3) array\""]),
    ("DataTypes.RANGE(DataTypes.DATEONLY)", &["t, column a, type = \"date range\""]),
    ("'VARCHAR(17)'", &["t, column a, type = \"varchar(17)\""]),
    ("'timestamp(3) without time zone'", &["t, column a, type = \"timestamp(3)\""]),
    ("DataTypes.HSTORE", &["t, column a, type = \"native(hstore)\""]),
    (
        "{ type: DataTypes.ENUM('low', 'high'), defaultValue: 'low' }",
        &["t, column a, default in the database = {\"literal\":\"low\"}"],
    ),
    (
        "DataTypes.ENUM(...[Grade.Low, Grade.High].map(String))",
        &["t, column a, type = \"enum(Grade)\""],
    ),
    ("{ type: DataTypes.ENUM, values: ['low', 'high'] }", &["t, column a, type = \"enum(TideA)\""]),
    (
        "{ type: DataTypes.STRING, validate: { isIn: [['low', 'high']] } }",
        &["t, column a, choices = \"TideA\""],
    ),
    (
        "{ type: DataTypes.UUID, defaultValue: DataTypes.UUIDV4 }",
        &[
            "t, column a, default in the application = {\"function\":\"random-uuid\"}",
            "!t, column a, default in the database",
        ],
    ),
    (
        "{ type: DataTypes.DATE, defaultValue: Sequelize.NOW }",
        &["t, column a, default in the application = {\"function\":\"now\"}"],
    ),
    (
        "{ type: DataTypes.DATE, defaultValue: Sequelize.fn('now') }",
        &["t, column a, default in the database = {\"function\":\"now\"}"],
    ),
    (
        "{ type: DataTypes.DATE, defaultValue: literal('CURRENT_TIMESTAMP') }",
        &["t, column a, default in the database = {\"function\":\"now\"}"],
    ),
    (
        "{ type: DataTypes.INTEGER, defaultValue: () => 7 }",
        &["t, column a, default in the application = {\"literal\":7}"],
    ),
    (
        "{ type: DataTypes.JSONB, defaultValue: [] }",
        &["t, column a, default in the database = {\"literal\":[]}"],
    ),
    (
        "{ type: DataTypes.STRING, field: 'of_it', comment: \"it's\" }",
        &["t, column of_it, attribute = \"a\"", "t, column of_it, comment = \"it's\""],
    ),
    ("{ type: DataTypes.STRING, unique: true }", &["t, unique a, as = \"constraint\""]),
    ("{ type: DataTypes.STRING, unique: 'alone' }", &["t, unique a, as = \"constraint\""]),
    (
        "{ type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true }",
        &["t, column a, identity = \"sequence\"", "!t, column id"],
    ),
    (
        "{ type: DataTypes.BIGINT, autoIncrement: true, autoIncrementIdentity: true, \
         primaryKey: true }",
        &["t, column a, identity = \"by-default\""],
    ),
    ("{ type: DataTypes.VIRTUAL, get() { return 1; } }", &["!t, column a"]),
    (
        "{ type: DataTypes.INTEGER, references: { model: 't', key: 'id' } }",
        &[
            "t, foreign key a, on_delete = \"no action\"",
            "t, foreign key a, on_update = \"no action\"",
        ],
    ),
    (
        "{ type: DataTypes.INTEGER, references: { model: 't', key: 'id' }, onDelete: 'cascade' }",
        &["t, foreign key a, on_delete = \"cascade\""],
    ),
    ("text(12)", &["t, column a, type = \"varchar(12)\"", "t, column a, nullable = \"not null\""]),
    (
        "{ type: sequelize.getDialect() === 'postgres' ? DataTypes.JSONB : DataTypes.JSON }",
        &["t, column a, type = \"binary json\""],
    ),
    ("{ type: choose() }", &["t, column a, type = \"binary json\""]),
];

#[test]
fn attributes() {
    for (attribute, wanted) in ATTRIBUTES {
        let text = format!(
            "enum Grade {{ Low = 1, High = 2 }}\n\
             const text = (length) => ({{ type: DataTypes.STRING(length), allowNull: false \
             }});\nfunction choose() {{\n  if (sequelize.getDialect() === 'postgres') {{\n    \
             return DataTypes.JSONB;\n  }}\n  return DataTypes.JSON;\n}}\n\
             const Tide = sequelize.define('Tide', {{ a: {attribute} }}, {{ tableName: 't', \
             timestamps: false }});\n"
        );
        check_on(Database::PostgreSql, "sequelize", &text, Vec::new(), wanted);
    }
}

/// Ways of declaring the model `Berth` with the attribute `slot`.
const FORMS: &[&str] = &[
    "const Berth = sequelize.define('Berth', { slot: DataTypes.INTEGER });",
    "export class Berth extends Model {}\nBerth.init({ slot: DataTypes.INTEGER }, { sequelize });",
    "class Berth extends Model {
  static initialise(sequelize) {
    return super.init({ slot: DataTypes.INTEGER }, { sequelize });
  }
}",
    "module.exports = (sequelize, DataTypes) => {
  const attributes = { slot: { type: DataTypes.INTEGER } };
  const Berth = sequelize.define('Berth', attributes);
  return Berth;
};",
    "module.exports = function (sequelize, DataTypes) {\n  return sequelize.define('Berth', { \
     slot: { type: DataTypes.INTEGER } }, {});\n};",
    "const sequelize_1 = require(\"sequelize\");
function makeBerth() {
  var _a;
  return _a = class Berth extends sequelize_1.Model {
    static initialise(sequelize) {
      this.init({ ...this.OWN }, { sequelize, modelName: 'Berth' });
    }
  },
  _a.OWN = { slot: { type: sequelize_1.DataTypes.INTEGER } },
  _a;
}",
    "@Table\nexport class Berth extends Model {\n  @Column slot?: number;\n}",
    "@Table({ modelName: 'Berth' })
export class Berth extends Model {
  @AllowNull @Column(DataType.INTEGER) slot!: number;
}",
];

#[test]
fn forms() {
    let wanted = &[
        "Berths, class = \"Berth\"",
        "Berths, column id, identity = \"sequence\"",
        "Berths, column slot, type = \"integer\"",
        "Berths, column slot, nullable = \"null\"",
        "Berths, column createdAt, nullable = \"not null\"",
        "Berths, column updatedAt, purpose = \"update-time\"",
    ];
    for text in FORMS {
        check_on(Database::PostgreSql, "sequelize", text, Vec::new(), wanted);
    }
}

/// Options of a model `signalMast` with the attribute `builtIn`.
const OPTIONS: &[(&str, &[&str])] = &[
    ("", &["signalMasts, column builtIn, type = \"integer\""]),
    (
        "underscored: true",
        &[
            "signal_masts, column built_in, attribute = \"builtIn\"",
            "signal_masts, column created_at, attribute = \"createdAt\"",
        ],
    ),
    (
        "freezeTableName: true, timestamps: false",
        &["signalMast, column builtIn, type = \"integer\"", "!signalMast, column createdAt"],
    ),
    ("tableName: 'masts', schema: 'yard'", &["masts, namespace = \"yard\""]),
    (
        "createdAt: 'made', updatedAt: false",
        &[
            "signalMasts, column made, purpose = \"creation-time\"",
            "!signalMasts, column updatedAt",
        ],
    ),
    (
        "paranoid: true, version: true",
        &[
            "signalMasts, column deletedAt, nullable = \"null\"",
            "signalMasts, column version, default in the database = {\"literal\":0}",
        ],
    ),
    ("indexes: [{ fields: ['builtIn'] }]", &["signalMasts, index builtIn, exists = true"]),
    (
        "indexes: [{ unique: true, name: 'u', fields: [{ name: 'builtIn', order: 'DESC' }], \
         where: { builtIn: { [Op.gt]: 3 } } }]",
        &["signalMasts, unique index builtIn desc where \"builtIn\" > 3, name = \"u\""],
    ),
];

#[test]
fn options() {
    for (options, wanted) in OPTIONS {
        let text = format!(
            "sequelize.define('signalMast', {{ builtIn: DataTypes.INTEGER }}, {{ {options} }});\n"
        );
        check_on(Database::PostgreSql, "sequelize", &text, Vec::new(), wanted);
    }
}

/// Associations between `Quay` and `Berth`, and what they make of `berths`.
const ASSOCIATIONS: &[(&str, &str, &[&str])] = &[
    (
        "",
        "Berth.belongsTo(Quay);",
        &[
            "berths, foreign key QuayId, on_delete = \"set null\"",
            "berths, column QuayId, nullable = \"null\"",
            "berths, relation QuayId, attribute = \"Quay\"",
        ],
    ),
    (
        "",
        "Berth.belongsTo(Quay, { as: 'quay', foreignKey: { name: 'quayId', allowNull: false } });",
        &[
            "berths, foreign key quayId, on_delete = \"no action\"",
            "berths, foreign key quayId, on_update = \"cascade\"",
        ],
    ),
    (
        "",
        "Quay.hasMany(Berth, { as: 'berths', foreignKey: { name: 'quayId', allowNull: false } });",
        &[
            "berths, foreign key quayId, on_delete = \"cascade\"",
            "berths, relation quayId, inverse = \"berths\"",
        ],
    ),
    (
        "quayId: DataTypes.INTEGER,",
        "Berth.belongsTo(models.Quay, { as: 'quay', foreignKey: 'quayId' });",
        &[
            "berths, foreign key quayId, on_delete = \"no action\"",
            "berths, column quayId, nullable = \"null\"",
        ],
    ),
    (
        "quayId: { type: DataTypes.INTEGER, allowNull: true },",
        "Berth.belongsTo(models['Quay'], { foreignKey: 'quayId' });",
        &["berths, foreign key quayId, on_delete = \"set null\""],
    ),
    (
        "quayId: DataTypes.INTEGER,",
        "Quay.hasMany(Berth, { foreignKey: 'quayId' });\n\
         Berth.belongsTo(Quay, { foreignKey: 'quayId' });",
        &["berths, foreign key quayId, on_delete = \"cascade\""],
    ),
    (
        "quayId: DataTypes.INTEGER,",
        "Quay.hasOne(Berth, { foreignKey: 'quayId' });",
        &["berths, relation quayId, kind = \"one-to-one\"", "!berths, unique"],
    ),
    (
        "quayId: DataTypes.INTEGER,",
        "Berth.belongsTo(Quay, { foreignKey: 'quayId', constraints: false });",
        &["berths, foreign key quayId, enforced = \"application\""],
    ),
    (
        "",
        "Berth.belongsTo(Quay, { foreignKey: 'quayName', targetKey: 'name' });",
        &[
            "berths, column quayName, type = \"varchar(255)\"",
            "berths, foreign key quayName, references = [null,\"quays\",[\"name\"]]",
        ],
    ),
    (
        "",
        "Berth.belongsToMany(Quay, { as: 'reach', through: 'reaches', foreignKey: 'berth', \
         otherKey: 'quay', timestamps: false });",
        &[
            "reaches, key, columns = [\"berth\",\"quay\"]",
            "reaches, foreign key quay, on_delete = \"cascade\"",
            "!reaches, class",
        ],
    ),
    (
        "",
        "Berth.belongsToMany(Quay, { through: 'reaches' });",
        &[
            "reaches, key, columns = [\"BerthId\",\"QuayId\"]",
            "reaches, column createdAt, nullable = \"not null\"",
        ],
    ),
    (
        "",
        "const Reach = sequelize.define('Reach', { far: DataTypes.INTEGER }, \
         { tableName: 'reaches', timestamps: false });\n\
         Berth.belongsToMany(Quay, { through: Reach });\n\
         Quay.belongsToMany(Berth, { through: Reach });",
        &[
            "reaches, key, columns = [\"BerthId\",\"QuayId\"]",
            "reaches, column far, type = \"integer\"",
        ],
    ),
    (
        "",
        "const Reach = sequelize.define('Reach', { id: \
         { type: DataTypes.INTEGER, primaryKey: true } }, \
         { tableName: 'reaches', timestamps: false });\n\
         Berth.belongsToMany(Quay, { through: Reach });",
        &[
            "reaches, key, columns = [\"id\"]",
            "reaches, unique BerthId, QuayId, as = \"constraint\"",
            "reaches, column BerthId, nullable = \"null\"",
        ],
    ),
];

#[test]
fn associations() {
    for (attribute, associations, wanted) in ASSOCIATIONS {
        let text = format!(
            "const Quay = sequelize.define('Quay', {{ name: {{ type: DataTypes.STRING, unique: \
             true }} }}, {{ tableName: 'quays', timestamps: false }});\n\
             const Berth = sequelize.define('Berth', {{ {attribute} }}, {{ tableName: \
             'berths', timestamps: false }});\n{associations}\n"
        );
        check_on(Database::PostgreSql, "sequelize", &text, Vec::new(), wanted);
    }
}

const DECORATED: &str = "@Table({ tableName: 'berths', underscored: true })\n\
                         export class Berth extends Model {\n\
                         @PrimaryKey @AutoIncrement @Column(DataType.BIGINT) declare number: \
                         string;\n\
                         @Unique @AllowNull(false) \
                         @Column({ type: DataType.STRING(24), field: 'said' }) declare \
                         reference: string;\n@Default(DataType.NOW) @Column declare builtAt: \
                         Date | null;\n@Index('by_depth') @Comment('in metres') @Column \
                         declare depth: number;\n@CreatedAt declare made: Date;\n\
                         @ForeignKey(() => Quay) @Column declare quayId: number;\n\
                         @BelongsTo(() => Quay) declare quay: Quay;\n}\n\
                         @Table({ tableName: 'quays', timestamps: false })\n\
                         export class Quay extends Model {\n\
                         @HasMany(() => Berth) declare berths: Berth[];\n}\n";

#[test]
fn decorated_classes() {
    let wanted = &[
        "berths, column number, identity = \"sequence\"",
        "berths, column said, type = \"varchar(24)\"",
        "berths, unique said, as = \"constraint\"",
        "berths, column built_at, default in the application = {\"function\":\"now\"}",
        "berths, index depth, name = \"by_depth\"",
        "berths, column depth, comment = \"in metres\"",
        "berths, column made, purpose = \"creation-time\"",
        "berths, column updated_at, purpose = \"update-time\"",
        "berths, relation quay_id, attribute = \"quay\"",
        "berths, relation quay_id, inverse = \"berths\"",
    ];
    check_on(Database::PostgreSql, "sequelize", DECORATED, Vec::new(), wanted);
}

const MIGRATION: &str = "module.exports = {\n  async up(queryInterface, Sequelize) {\n\
                         await queryInterface.createTable('tows', {\n      id: \
                         { type: Sequelize.INTEGER, primaryKey: true, autoIncrement: true },\n\
                         name: { type: Sequelize.STRING(24), allowNull: false },\n      quay: \
                         Sequelize.INTEGER,\n    });\n\
                         await queryInterface.createTable('quays', { id: \
                         { type: Sequelize.INTEGER, primaryKey: true } });\n\
                         await queryInterface.addColumn('tows', 'force', \
                         { type: Sequelize.DECIMAL(6, 2), defaultValue: 0 });\n\
                         await queryInterface.changeColumn('tows', 'name', \
                         { type: Sequelize.STRING(40), unique: true });\n\
                         await queryInterface.renameColumn('tows', 'quay', 'quay_id');\n\
                         await queryInterface.addConstraint('tows', { type: 'foreign key', \
                         fields: ['quay_id'], references: { table: 'quays', field: 'id' }, \
                         onDelete: 'cascade' });\nawait queryInterface.addIndex('tows', \
                         ['quay_id'], { name: 'by_quay' });\n\
                         await queryInterface.renameTable('tows', 'tugs');\n\
                         await queryInterface.sequelize.query('ANALYZE');\n  },\n\
                         async down(queryInterface) {\n    await \
                         queryInterface.dropTable('tugs');\n  },\n};\n";

#[test]
fn migrations_are_replayed() {
    let wanted = &[
        "tugs, column name, type = \"varchar(40)\"",
        "tugs, column name, nullable = \"null\"",
        "tugs, unique name, as = \"constraint\"",
        "tugs, column force, default in the database = {\"literal\":\"0\"}",
        "tugs, column id, identity = \"sequence\"",
        "tugs, foreign key quay_id, on_delete = \"cascade\"",
        "tugs, index quay_id, name = \"by_quay\"",
        "!tows, ",
    ];
    check_on(Database::PostgreSql, "sequelize", MIGRATION, Vec::new(), wanted);
}

/// Of files that are called alike, the one at the path that is required.
#[test]
fn required_files() {
    let mast = |name: &str| {
        format!(
            "module.exports = (sequelize, DataTypes) => sequelize.define('{name}', {{ a: \
             DataTypes.TEXT }});\n"
        )
    };
    let lamp = "const sequelize = connect();\n\
                const Mast = require('../yard/mast.js')(sequelize, DataTypes);\n\
                const Lamp = sequelize.define('Lamp', {});\nLamp.belongsTo(Mast);\n";
    let files = [
        ("quay/mast.js", mast("Flagpole")),
        ("quay/lamp.js", lamp.to_owned()),
        ("yard/mast.js", mast("Derrick")),
    ];
    let files = files.map(|(path, text)| (path.to_owned(), text)).to_vec();
    let schema = read(
        files,
        by_id("sequelize").expect("a dialect"),
        &mut Settings::default(),
        &Files(Vec::new()),
    )
    .schema;
    assert!(
        facts(&schema)
            .iter()
            .any(|(key, _)| key.table == "Lamps"
                && key.element.to_string() == "foreign key DerrickId"),
        "{schema:#?}"
    );
}

/// What cannot be read, and the diagnostic that says so.
const BAD: &[(&str, &str)] = &[
    (
        "sequelize.define('Tide', { a: { type: kindOf(process.env.SERVER) } });",
        "unknown-column-type",
    ),
    ("sequelize.define('Tide', { a: { allowNull: false } });", "unknown-column-type"),
    ("sequelize.define('Tide', attributes);", "opaque-attributes"),
    ("sequelize.define('Tide', { ...common, a: DataTypes.TEXT });", "opaque-attributes"),
    ("sequelize.define('Tide', { a: DataTypes.TINYINT });", "unsupported-type"),
    ("sequelize.define('Tide', { a: { type: DataTypes.INTEGER, index: true } });", "said-in-vain"),
    (
        "sequelize.define('Tide', { a: { type: DataTypes.INTEGER, onDelete: 'cascade' } });",
        "said-in-vain",
    ),
    ("sequelize.define('Tide', { a: DataTypes.VIRTUAL });", "virtual-attribute"),
    (
        "sequelize.define('Tide', { a: DataTypes.TEXT }, { indexes: \
         [{ fields: ['a'], where: condition() }] });",
        "opaque-index",
    ),
    (
        "sequelize.define('Tide', {}).belongsTo(models.Moon);\n\
         const Tide = sequelize.define('Tide', {});\nTide.hasMany(models.Moon);",
        "opaque-target",
    ),
    (
        "const Tide = sequelize.define('Tide', {});\nTide.belongsTo(models.Moon, { as: 'moon' });",
        "undeclared-target",
    ),
    (
        "const Tide = sequelize.define('Tide', {});\nTide.belongsToMany(Tide, { as: 'near' });",
        "opaque-target",
    ),
    ("sequelize.define('Tide', { a: DataTypes.TEXT", "syntax-error"),
    (
        "module.exports = { async up(queryInterface) \
         { await queryInterface.removeColumn('tides', 'at'); } };",
        "impossible-step",
    ),
    (
        "module.exports = { async up(queryInterface) \
         { await queryInterface.dropTable(tides()); } };",
        "step-not-replayed",
    ),
    (
        "@Table\nclass Tide extends Model {\n  @Length({ max: 3 }) @Column a: string;\n}",
        "decorators-left-out",
    ),
];

#[test]
fn what_is_not_read_is_named() {
    for (text, code) in BAD {
        let found = reading("sequelize", text, Vec::new(), Database::PostgreSql).diagnostics;
        assert!(
            found.iter().any(|diagnostic| diagnostic.code == *code),
            "{code} is missing\n{text}\n{found:#?}"
        );
    }
}
