//! Declarations, read and written again: what stays as it was written, and what is written in the
//! usual way.

#[path = "../../printing.rs"]
mod printing;

use printing::{Class, check};

/// What is written, and what is written again; nothing where it is the same.
const CASES: &[(&str, &str)] = &[
    ("@Column()\ndepth!: number;", ""),
    (
        "@Column({ nullable: true })\ndepth!: number | null;",
        "@Column({ type: 'integer', nullable: true })\ndepth!: number | null;",
    ),
    (
        "@Column('decimal', { precision: 6, scale: 2 })\nprice!: string;",
        "@Column({ type: 'decimal', precision: 6, scale: 2 })\nprice!: string;",
    ),
    (
        "@Column({ type: 'varchar', length: 40, unique: true, name: 'note_text' })\nnote!: string;",
        "@Column({ length: 40, name: 'note_text', unique: true })\nnote!: string;",
    ),
    ("@Column({ type: 'text', default: '' })\nnote!: string;", ""),
    ("@Column({ default: () => 'now()' })\nat!: Date;", ""),
    (
        "@Column('timestamp with time zone', { precision: 3 })\nat!: Date;",
        "@Column({ type: 'timestamp with time zone', precision: 3 })\nat!: Date;",
    ),
    ("@CreateDateColumn()\nat!: Date;", ""),
    ("@UpdateDateColumn()\nat!: Date;", ""),
    ("@DeleteDateColumn()\nat!: Date | null;", ""),
    ("@VersionColumn()\nversion!: number;", ""),
    (
        "@Column({ type: 'enum', enum: ['bulk', 'container'] })\nkind!: string;",
        "@Column({ type: 'enum', enum: ['bulk', 'container'] })\nkind!: 'bulk' | 'container';",
    ),
    (
        "@Column('simple-json')\nwhere!: object;",
        "@Column({ type: 'simple-json' })\nwhere!: unknown;",
    ),
    (
        "@Column('int', { array: true })\ndepths!: number[];",
        "@Column({ type: 'int', array: true })\ndepths!: number[];",
    ),
    (
        "@Column({ comment: 'what it is', collation: 'C' })\nnote!: string;",
        "@Column({ collation: 'C', comment: 'what it is' })\nnote!: string;",
    ),
    ("@Column({ select: false, update: false })\nnote!: string;", ""),
    (
        "@Column({ generatedType: 'STORED', asExpression: 'id + 1' })\ndeep!: number;",
        "@Column({ asExpression: '\"id\" + 1', generatedType: 'STORED' })\ndeep!: number;",
    ),
    ("@Index()\n@Column()\ndepth!: number;", ""),
    (
        "@Index('by_depth', { unique: true })\n@Column()\ndepth!: number;",
        "@Column()\ndepth!: number;",
    ),
    ("@ManyToOne(() => Quay)\nquay!: Quay;", ""),
    (
        "@ManyToOne(() => Quay, { onDelete: 'CASCADE', nullable: false })\n\
         @JoinColumn({ name: 'at' })\nquay!: Quay;",
        "@ManyToOne(() => Quay, { nullable: false, onDelete: 'CASCADE' })\n\
         @JoinColumn({ name: 'at' })\nquay!: Quay;",
    ),
    ("@OneToOne(() => Quay)\n@JoinColumn()\nquay!: Quay;", ""),
    ("@ManyToMany(() => Quay)\n@JoinTable({ name: 'at' })\nquays!: Quay[];", ""),
    (
        "@ManyToOne(() => Quay, { createForeignKeyConstraints: false, eager: true })\nquay!: Quay;",
        "",
    ),
];

const CLASS: Class = Class {
    path: "harbour/berth.entity.ts",
    head: "import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

@Entity()
export class Quay {
  @PrimaryGeneratedColumn()
  id!: number;
}

",
    before: "@Entity()\nexport class Berth {\n  @PrimaryGeneratedColumn()\n  id!: number;\n",
    indentation: "  ",
    after: "}\n",
    first_line: "export class Berth",
};

#[test]
fn what_is_read_is_written_again() {
    check(&sprachbund_typeorm::DIALECT, &CLASS, CASES);
}
