//! Declarations, read and written again: what stays as it was written, and what is written in the
//! usual way.

#[path = "../../printing.rs"]
mod printing;

use printing::{Class, check};

/// What is written, and what is written again; nothing where it is the same.
const CASES: &[(&str, &str)] = &[
    ("depth: DataTypes.INTEGER,", "declare depth: number | null;\ndepth: DataTypes.INTEGER,"),
    (
        "depth: { type: DataTypes.INTEGER, allowNull: false },",
        "declare depth: number;\ndepth: { type: DataTypes.INTEGER, allowNull: false },",
    ),
    (
        "price: { type: DataTypes.DECIMAL(6, 2), defaultValue: 1.5 },",
        "declare price: CreationOptional<string | null>;\n\
         price: { type: DataTypes.DECIMAL(6, 2), defaultValue: 1.5 },",
    ),
    (
        "note: { type: DataTypes.STRING(40), unique: true, field: 'note_text' },",
        "declare note: string | null;\n\
         note: { type: DataTypes.STRING(40), field: 'note_text', unique: true },",
    ),
    (
        "note: { type: DataTypes.TEXT, comment: 'what it is' },",
        "declare note: string | null;\nnote: { type: DataTypes.TEXT, comment: 'what it is' },",
    ),
    (
        "at: { type: DataTypes.DATE, defaultValue: DataTypes.NOW },",
        "declare at: CreationOptional<Date | null>;\n\
         at: { type: DataTypes.DATE, defaultValue: DataTypes.NOW },",
    ),
    (
        "key: { type: DataTypes.UUID, primaryKey: true, defaultValue: DataTypes.UUIDV4 },",
        "declare key: CreationOptional<string>;\n\
         key: { type: DataTypes.UUID, primaryKey: true, defaultValue: DataTypes.UUIDV4 },",
    ),
    (
        "kind: DataTypes.ENUM('bulk', 'container'),",
        "declare kind: 'bulk' | 'container' | null;\nkind: DataTypes.ENUM('bulk', 'container'),",
    ),
    (
        "depths: DataTypes.ARRAY(DataTypes.INTEGER),",
        "declare depths: number[] | null;\ndepths: DataTypes.ARRAY(DataTypes.INTEGER),",
    ),
    ("where: DataTypes.JSONB,", "declare where: unknown | null;\nwhere: DataTypes.JSONB,"),
    (
        "depth: { type: DataTypes.INTEGER, validate: { min: 1, max: 30 } },",
        "declare depth: number | null;\ndepth: { type: DataTypes.INTEGER, validate: \
         { min: 1, max: 30 } },",
    ),
    (
        "quay_id: { type: DataTypes.INTEGER, references: { model: Quay, key: 'id' }, onDelete: \
         'CASCADE' },",
        "declare quay_id: number | null;\nquay_id: {\ntype: DataTypes.INTEGER,\n\
         references: { model: 'Quays', key: 'id' },\nonDelete: 'CASCADE',\n},",
    ),
    (
        "free: { type: DataTypes.BOOLEAN, defaultValue: true },",
        "declare free: CreationOptional<boolean | null>;\n\
         free: { type: DataTypes.BOOLEAN, defaultValue: true },",
    ),
];

const CLASS: Class = Class {
    path: "harbour/berth.ts",
    head: "const Quay = sequelize.define('Quay', {});\n",
    before: "const Berth = sequelize.define('Berth', {\n",
    indentation: "  ",
    after: "});\n",
    first_line: "export class Berth",
};

#[test]
fn what_is_read_is_written_again() {
    check(&sprachbund_sequelize::DIALECT, &CLASS, CASES);
}
