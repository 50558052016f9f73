//! Declarations, read and written again: what stays as it was written, and what is written in the
//! usual way.

#[path = "../../printing.rs"]
mod printing;

use printing::{Class, check};

/// What is written, and what is written again; nothing where it is the same.
const CASES: &[(&str, &str)] = &[
    ("depth: Number,", ""),
    ("depth: { type: Number, required: true, min: 1, max: 30, default: 3 },", ""),
    (
        "note: { type: String, trim: true, maxlength: 40, unique: true },",
        "note: { type: String, maxlength: 40, trim: true },\n\
         berthSchema.index({ note: 1 }, { unique: true });",
    ),
    ("note: { type: String, enum: ['bulk', 'container'], index: true },", ""),
    ("at: { type: Date, default: Date.now },", ""),
    ("price: Schema.Types.Decimal128,", ""),
    ("quay: { type: Schema.Types.ObjectId, ref: 'Quay', required: true },", ""),
    (
        "quays: [{ type: Schema.Types.ObjectId, ref: 'Quay' }],",
        "quays: { type: [Schema.Types.ObjectId], ref: 'Quay' },",
    ),
    ("tags: [String],", ""),
    (
        "where: { latitude: Number, longitude: Number },",
        "where: {\nlatitude: Number,\nlongitude: Number,\n},",
    ),
    ("moored: { type: Boolean, default: false },", ""),
    ("extra: Schema.Types.Mixed,", ""),
    ("counts: { type: Map, of: Number },", ""),
];

const CLASS: Class = Class {
    path: "harbour/berth.ts",
    head: "",
    before: "const berthSchema = new Schema({\n  name: String,\n",
    indentation: "  ",
    after: "});\nexport const Berth = mongoose.model('Berth', berthSchema);\n",
    first_line: "Schema = new Schema(",
};

#[test]
fn what_is_read_is_written_again() {
    check(&sprachbund_mongoose::DIALECT, &CLASS, CASES);
}
