const mongoose = require('mongoose');
const { Schema } = mongoose;
const Mixed = Schema.Types.Mixed;

// Every type, in the long form and in the short one.
const craneSchema = new Schema({
  name: String,
  load: Number,
  reach: { type: Number },
  electric: Boolean,
  builtOn: Date,
  plan: Buffer,
  turns: BigInt,
  wheels: Schema.Types.Int32,
  angle: Schema.Types.Double,
  price: Schema.Types.Decimal128,
  serial: Schema.Types.UUID,
  yard: Schema.Types.ObjectId,
  notes: Mixed,
  extra: {},
  more: Object,
  byText: { type: 'String' },
  byName: 'Number',
  keyed: { type: 'ObjectId' },
  tags: [String],
  marks: [],
  grid: [[Number]],
  shifts: { type: [Number], default: undefined },
  hooks: { type: Array },
  readings: { type: [{ type: Number }], default: [1, 2] },
  labels: { type: Map, of: String },
  anything: Map,
  stands: { type: Map, of: new Schema({ number: Number }, { _id: false }) },
  type: { type: String },
  spot: { type: { type: String, enum: ['Point'] }, coordinates: [Number] },
  'odd name': { type: String, alias: 'oddName' },
});

// Where nothing is said, and everything that may be said of one path.
const berthRules = { type: String, required: true, minlength: 2, maxlength: [12, 'too long'] };
const rules = { trim: true, lowercase: true };
const logSchema = new Schema(
  {
    code: berthRules,
    short: { ...berthRules, ...rules, required: false },
    state: { type: String, enum: ['open', 'shut'], default: 'open' },
    grade: { type: Number, enum: [1, 2, 3], default: 1 },
    kind: { type: String, enum: { values: ['in', 'out'], message: 'neither in nor out' } },
    tide: { type: Number, min: 0, max: [9, 'too high'], required: [true, 'give the tide'] },
    seen: { type: Date, default: Date.now, min: '2020-01-01' },
    noted: { type: Date, default: () => Date.now() },
    count: { type: Number, default: () => 3 },
    flag: { type: Boolean, default: false },
    set: { type: Mixed, default: {} },
    list: { type: [String], default: ['a'] },
    named: { type: String, default: null },
    pattern: { type: String, match: /^[A-Z]+$/ },
    hidden: { type: String, select: false, immutable: true },
    sometimes: { type: String, required() { return this.flag; } },
    require: { type: String, require: true },
  },
  { timestamps: true, versionKey: 'edition' },
);

// Mistakes that the framework takes in silence.
const vainSchema = new Schema({ wheels: { type: Schema.Types.Int32, min: 1, enum: [1, 2] }, depth: { type: Number, maxlength: 4 } }, { versionKey: false });

module.exports = {
  Crane: mongoose.model('Crane', craneSchema),
  DockLog: mongoose.model('DockLog', logSchema, 'DockLog'),
  Vain: mongoose.model('Vain', vainSchema),
};
