//! Constructs of Mongoose schemas.

use sprachbund_core::dialect::Settings;
use sprachbund_core::dialects::by_id;
use sprachbund_core::reading::read;
use sprachbund_core::schema::Database;

use super::{Files, check_on, reading};

/// One path `a` of a schema over the collection `t`.
const PATHS: &[(&str, &[&str])] = &[
    (
        "String",
        &[
            "t, column a, type = \"text\"",
            "t, column a, nullable = \"null\"",
            "t, column a, required_on_input = \"optional\"",
        ],
    ),
    (
        "{ type: String, required: true }",
        &["t, column a, required_on_input = \"required\"", "t, column a, nullable = \"null\""],
    ),
    (
        "{ type: String, required: [true, 'say it'] }",
        &["t, column a, required_on_input = \"required\""],
    ),
    (
        "{ type: String, required() { return true; } }",
        &["t, column a, required_on_input = \"optional\""],
    ),
    ("'number'", &["t, column a, type = \"double precision\""]),
    ("mongoose.Schema.Types.Int32", &["t, column a, type = \"integer\""]),
    ("{ type: BigInt }", &["t, column a, type = \"bigint\""]),
    ("Schema.Types.Decimal128", &["t, column a, type = \"numeric\""]),
    ("Date", &["t, column a, type = \"timestamp(3) with time zone\""]),
    ("Types.ObjectId", &["t, column a, type = \"object id\""]),
    ("{}", &["t, column a, type = \"binary json\""]),
    ("Object", &["t, column a, type = \"binary json\""]),
    (
        "{ type: Map, of: Number }",
        &["t, column a, type = \"binary json\"", "t, column a, extra map = [\"Number\"]"],
    ),
    (
        "[String]",
        &[
            "t, column a, type = \"text array\"",
            "t, column a, default in the application = {\"literal\":[]}",
        ],
    ),
    (
        "{ type: [Number], default: undefined }",
        &["t, column a, type = \"double precision array\"", "!t, column a, default"],
    ),
    ("[[Number]]", &["t, column a, type = \"double precision array array\""]),
    ("[]", &["t, column a, type = \"binary json array\""]),
    (
        "{ type: String, maxlength: [9, 'too long'], match: /^x$/ }",
        &["t, column a, rules = [{\"rule\":\"max_length\",\"value\":9,\"message\":\"too \
           long\"},{\"rule\":\"pattern\",\"value\":\"^x$\",\"message\":null}]"],
    ),
    (
        "{ type: Number, min: 1 }",
        &["t, column a, rules = [{\"rule\":\"min_value\",\"value\":1,\"message\":null}]"],
    ),
    ("{ type: String, enum: ['in', 'out'] }", &["t, column a, choices = \"TideA\""]),
    ("{ type: String, enum: Way }", &["t, column a, choices = \"Way\""]),
    ("{ type: String, enum: Object.values(Way) }", &["t, column a, choices = \"Way\""]),
    ("{ type: [String], enum: ['in'] }", &["t, column a, choices = \"TideA\""]),
    (
        "{ type: Date, default: Date.now }",
        &["t, column a, default in the application = {\"function\":\"now\"}"],
    ),
    (
        "{ type: Date, default: () => new Date() }",
        &["t, column a, default in the application = {\"function\":\"now\"}"],
    ),
    (
        "{ type: Number, default: () => 3 }",
        &["t, column a, default in the application = {\"literal\":3.0}"],
    ),
    ("{ type: String, default: null }", &["!t, column a, default"]),
    ("{ type: String, alias: 'b' }", &["t, column a, attribute = \"b\""]),
    ("{ type: String, lowercase: true }", &["t, column a, extra lowercase = [true]"]),
    (
        "{ type: String, unique: true }",
        &["t, unique a, nulls_not_distinct = true", "t, unique a, as = \"index\""],
    ),
    (
        "{ type: String, unique: true, sparse: true }",
        &["t, unique a, as = \"index\"", "!t, unique a, nulls_not_distinct"],
    ),
    (
        "{ type: String, unique: true, required: true }",
        &["t, unique a, as = \"index\"", "!t, unique a, nulls_not_distinct"],
    ),
    ("{ type: String, index: true }", &["t, index a, exists = true"]),
    ("{ type: String, index: -1 }", &["t, index a desc, exists = true"]),
    ("{ type: [Number], index: '2dsphere' }", &["t, index a, method = \"2dsphere\""]),
    ("{ type: String, text: true }", &["t, index a, method = \"text\""]),
    ("{ type: Date, expires: '2 days' }", &["t, index a, extra expireAfterSeconds = [172800]"]),
    (
        "{ type: Schema.Types.ObjectId, ref: 'Tide' }",
        &["t, relation a, target = \"t\"", "t, foreign key a, enforced = \"application\""],
    ),
    (
        "{ type: Schema.Types.ObjectId, ref: () => Tide, unique: true }",
        &["t, relation a, kind = \"one-to-one\"", "t, unique a, nulls_not_distinct = true"],
    ),
    (
        "[{ type: Schema.Types.ObjectId, ref: 'Tide' }]",
        &["t, relation a, kind = \"many-to-many\"", "t, column a, type = \"object id array\""],
    ),
    (
        "{ type: String, ref: 'Lost' }",
        &["t, column a, type = \"text\"", "t, relation a, target = \"harbour.Lost\""],
    ),
];

#[test]
fn paths() {
    for (path, wanted) in PATHS {
        let text = format!(
            "enum Way {{ In = 'in', Out = 'out' }}\n\
             const Tide = mongoose.model('Tide', new Schema({{ a: {path} }}), 't');\n"
        );
        // A unique path that may be missing is one on which a missing value counts.
        let wanted: Vec<&str> = wanted
            .iter()
            .copied()
            .filter(|line| !(path.contains("ref: () =>") && line.contains("one-to-one")))
            .collect();
        check_on(Database::MongoDb, "mongoose", &text, Vec::new(), &wanted);
    }
}

/// Schemas of the model `SignalStatus`.
const SCHEMAS: &[(&str, &[&str])] = &[
    (
        "{ a: String }",
        &[
            "signalstatuses, column __v, purpose = \"version\"",
            "signalstatuses, key, columns = [\"_id\"]",
            "!signalstatuses, column createdAt",
        ],
    ),
    (
        "{ a: String }, { versionKey: false, timestamps: true }",
        &[
            "signalstatuses, column updatedAt, purpose = \"update-time\"",
            "!signalstatuses, column __v",
        ],
    ),
    (
        "{ made: Date }, { timestamps: { createdAt: 'made', updatedAt: false } }",
        &[
            "signalstatuses, column made, purpose = \"creation-time\"",
            "!signalstatuses, column updatedAt",
        ],
    ),
    ("{ a: String }, { collection: 'Signals' }", &["Signals, class = \"SignalStatus\""]),
    (
        "{ _id: Number }",
        &[
            "signalstatuses, column _id, type = \"double precision\"",
            "!signalstatuses, column _id, default",
        ],
    ),
    (
        "{ _id: { type: Schema.Types.ObjectId, auto: true } }",
        &["signalstatuses, column _id, default in the application = \
           {\"expression\":{\"language\":\"typescript\",\"database\":null,\"text\":\"() => new \
           Types.ObjectId()\",\"tree\":null}}"],
    ),
    (
        "{ p: { x: Number, q: { y: Number } } }",
        &[
            "signalstatuses.p, owned_by = {\"entity\":\"harbour.SignalStatus\",\"path\":\"p\",\
             \"shape\":\"part\"}",
            "signalstatuses.p.q, column y, type = \"double precision\"",
            "!signalstatuses.p, key",
        ],
    ),
    (
        "{ p: { type: { x: Number } } }",
        &[
            "signalstatuses.p, owned_by = {\"entity\":\"harbour.SignalStatus\",\"path\":\"p\",\
             \"shape\":\"one\"}",
            "signalstatuses.p, key, columns = [\"_id\"]",
        ],
    ),
    (
        "{ p: [{ x: Number, _id: false }] }",
        &[
            "signalstatuses.p, owned_by = {\"entity\":\"harbour.SignalStatus\",\"path\":\"p\",\
             \"shape\":\"many\"}",
            "!signalstatuses.p, key",
        ],
    ),
    (
        "{ p: { type: Map, of: new Schema({ x: Number }) } }",
        &["signalstatuses.p, owned_by = {\"entity\":\"harbour.SignalStatus\",\"path\":\"p\",\
           \"shape\":\"keyed\"}"],
    ),
    (
        "{ type: { type: String }, x: Number }",
        &[
            "signalstatuses, column type, type = \"text\"",
            "signalstatuses, column x, type = \"double precision\"",
        ],
    ),
    (
        "{ p: { type: { type: String }, x: [Number] } }",
        &["signalstatuses.p, column type, type = \"text\""],
    ),
];

#[test]
fn schemas() {
    for (schema, wanted) in SCHEMAS {
        let text = format!(
            "import {{ Schema, model }} from 'mongoose';\n\
             export default model('SignalStatus', new Schema({schema}));\n"
        );
        check_on(Database::MongoDb, "mongoose", &text, Vec::new(), wanted);
    }
}

/// Ways of declaring the model `Berth` with the path `slot`.
const FORMS: &[&str] = &[
    "const berthSchema = new mongoose.Schema({ slot: Number });\n\
     module.exports = mongoose.model('Berth', berthSchema);",
    "export const Berth = mongoose.models.Berth || mongoose.model('Berth', new \
     mongoose.Schema({ slot: Number }));",
    "const mongoose_1 = __importDefault(require('mongoose'));\n\
     exports.Berth = mongoose_1.default.model('Berth', new mongoose_1.default.Schema({ slot: \
     { type: mongoose_1.default.Schema.Types.Number } }));",
    "module.exports = (connection) => {
  const schema = new mongoose.Schema({ slot: Number });
  return { Berth: connection.model('Berth', schema) };
};",
    "const berthSchema = new mongoose.Schema({});\nberthSchema.add({ slot: Number });\n\
     const Berth = mongoose.model('Berth', berthSchema);",
    "const NAME = 'Berth';\nconst paths = { slot: Number };\n\
     module.exports = { Berth: mongoose.model(NAME, new mongoose.Schema({ ...paths })) };",
];

#[test]
fn forms() {
    let wanted = &[
        "berths, class = \"Berth\"",
        "berths, column slot, type = \"double precision\"",
        "berths, column __v, purpose = \"version\"",
    ];
    for text in FORMS {
        check_on(Database::MongoDb, "mongoose", text, Vec::new(), wanted);
    }
}

#[test]
fn every_form_of_the_keys_of_an_index() {
    for (keys, index) in [
        ("'a'", "index a"),
        ("{ a: 'asc' }", "index a"),
        ("{ a: 'descending' }", "index a desc"),
        ("['a', -1]", "index a desc"),
        ("['a', 'text']", "index a"),
        ("['a', 'b']", "index a, b"),
        ("[['a', 1], ['b', -1]]", "index a, b desc"),
        ("['a', { b: -1 }]", "index a, b desc"),
        ("[['a'], ['b', -1]]", "index a, b desc"),
        ("[['a', 'hashed']]", "index a"),
    ] {
        let text = format!(
            "const s = new mongoose.Schema({{ a: String, b: Date }});\n\
             s.index({keys});\nmongoose.model('Buoy', s);\n"
        );
        let wanted = format!("buoys, {index}, exists = true");
        check_on(Database::MongoDb, "mongoose", &text, Vec::new(), &[&wanted]);
    }
}

#[test]
fn statements_of_a_schema() {
    let text = "const s = new mongoose.Schema({ quay: \
                { type: mongoose.Types.ObjectId, ref: 'Quay' }, a: String, p: { x: Number } \
                });\ns.index({ a: 1, quay: -1 });\n\
                s.index({ a: 1 }, { unique: true, name: 'by_a' });\ns.index({ 'p.x': 1 });\n\
                s.index({ a: 1, 'p.x': 1 });\ns.index({ quay: 1 }, { partialFilterExpression: \
                { a: { $exists: true } } });\nconst Berth = mongoose.model('Berth', s);\n\
                const q = new mongoose.Schema({ name: String });\n\
                q.virtual('berths', { ref: 'Berth', localField: '_id', foreignField: 'quay' });\
                \nq.virtual('first').get(function () { return this.name[0]; });\n\
                const Quay = mongoose.model('Quay', q);\n";
    let wanted = &[
        "berths, index a, quay desc, exists = true",
        "berths, unique a, name = \"by_a\"",
        "berths.p, index x, exists = true",
        "berths, extra indexes = [[[{\"a\":1,\"p.x\":1},{}]]]",
        "berths, index quay where \"a\" IS NOT NULL, exists = true",
        "berths, relation quay, inverse = \"berths\"",
    ];
    check_on(Database::MongoDb, "mongoose", text, Vec::new(), wanted);
}

#[test]
fn kinds_share_a_collection() {
    let text = "const Craft = mongoose.model('Craft', new mongoose.Schema({ name: String }, \
                { discriminatorKey: 'kind' }));\nconst Tug = Craft.discriminator('Tug', new \
                mongoose.Schema({ pull: Number }), 'tug');\n";
    let wanted = &[
        "crafts, column pull, extra only_in = [\"Tug\"]",
        "crafts, column kind, type = \"text\"",
        "crafts as Tug, extra discriminator_value = [\"tug\"]",
    ];
    check_on(Database::MongoDb, "mongoose", text, Vec::new(), wanted);
}

#[test]
fn schemas_of_other_files() {
    let others = vec![
        (
            "harbour/lamp.js",
            "const mongoose = require('mongoose');\nconst { reach } = require('./reach');\n\
             const lampSchema = new mongoose.Schema({ ...reach });\n\
             module.exports = { lampSchema, shared: { by: String } };\n",
        ),
        // Code finds the code, not what declares its types.
        ("harbour/reach.js", "exports.reach = { range: Number };\n"),
        ("harbour/reach.d.ts", "export declare const reach: unknown;\n"),
        (
            "harbour/kinds.d.ts",
            "export declare enum Kind { Pier = \"pier\" }\n\
             export declare const SIDES: readonly [\"port\", \"starboard\"];\n",
        ),
    ];
    let text = "const { lampSchema, shared } = require('./lamp');\n\
                const kinds = require('./kinds');\nconst Light = mongoose.model('Light', new \
                mongoose.Schema({ ...shared, lamps: [lampSchema], side: \
                { type: String, enum: kinds.SIDES }, [kinds.Kind.Pier]: Number }));\n";
    let wanted = &[
        "lights, column by, type = \"text\"",
        "lights.lamps, column range, type = \"double precision\"",
        "lights, column side, choices = \"LightSide\"",
        "lights, column pier, type = \"double precision\"",
    ];
    check_on(Database::MongoDb, "mongoose", text, others, wanted);
}

#[test]
fn what_stands_inside_can_be_one_value() {
    let text = "const Light = mongoose.model('Light', new mongoose.Schema({ lamps: \
                [{ range: Number }], at: { x: Number } }));\n";
    let mut settings = Settings { nested_as_json: true, ..Settings::default() };
    let found = read(
        vec![("harbour/light.js".into(), text.into())],
        by_id("mongoose").expect("a dialect"),
        &mut settings,
        &Files(Vec::new()),
    );
    let entity = found.schema.entities.first().expect("a model");
    let types: Vec<String> =
        entity.fields.iter().map(|field| format!("{} {}", field.column, field.r#type)).collect();
    assert_eq!(
        (found.schema.entities.len(), types[1..3].to_vec()),
        (1, vec!["lamps binary json".to_owned(), "at binary json".to_owned()])
    );
}

/// Bad input, and what is said of it.
const BAD: &[(&str, &str)] = &[
    ("model('T', new Schema({ a: { type: choose() } }))", "unknown-path-type"),
    ("model('T', new Schema(paths()))", "opaque-paths"),
    ("model('T', new Schema({ ...paths }))", "opaque-paths"),
    ("model('T', new Schema({ a: { type: String, enum: list() } }))", "opaque-choices"),
    ("model('T', new Schema({ a: { type: Number, max: most } }))", "opaque-limit"),
    ("model('T', new Schema({ a: { type: String, ref: which() } }))", "opaque-reference"),
    ("model('T', new Schema({ a: { type: Schema.Types.Int32, min: 1 } }))", "option-in-vain"),
    ("model('T', new Schema({ a: { type: String, ref: 'Lost' } }))", "undeclared-target"),
    ("model('T', new Schema({ a: String }), naming())", "opaque-collection"),
    ("const tideSchema = new Schema({ a: String })", "schema-without-model"),
    ("const s = new Schema({ a: String }); s.plugin(extra); model('T', s)", "schema-plugin"),
    ("const s = new Schema({ a: String }); s.index(keys()); model('T', s)", "opaque-index"),
    ("const s = new Schema({ a: String }); s.index({ a: way() }); model('T', s)", "opaque-index"),
    ("const s = new Schema({ a: String }); s.index(['a', other]); model('T', s)", "opaque-index"),
    ("const s = new Schema({ a: String }); s.index(['a', b + 'c']); model('T', s)", "opaque-index"),
    ("const s = new Schema({ a: String }); s.index({ a: 1 - one }); model('T', s)", "opaque-index"),
    ("const s = new Schema({ a: String }); s.index({ a: 'down' }); model('T', s)", "opaque-index"),
    (
        "const s = new Schema({ a: String }); s.virtual('v', \
         { ref: 'T', localField: '_id', foreignField: 'a' }); model('T', s)",
        "virtual-without-reference",
    ),
    (
        "const s = new Schema({ a: String }); s.add({ inner: [s] }); model('T', s)",
        "circular-schema",
    ),
    ("model('T', new Schema({ a: { type: String", "syntax-error"),
];

#[test]
fn bad_input_is_named() {
    for (text, code) in BAD {
        let text = format!("import mongoose, {{ Schema, model }} from 'mongoose';\n{text}\n");
        let found = reading("mongoose", &text, Vec::new(), Database::MongoDb).diagnostics;
        assert!(
            found.iter().any(|diagnostic| diagnostic.code == *code && diagnostic.primary.is_some()),
            "{code}\n{text}\n{found:#?}"
        );
    }
}
