import {
  Check,
  ChildEntity,
  Column,
  CreateDateColumn,
  DeleteDateColumn,
  Entity,
  EntitySchema,
  Exclusion,
  Generated,
  Index,
  JoinColumn,
  JoinTable,
  ManyToMany,
  ManyToOne,
  OneToMany,
  OneToOne,
  PrimaryColumn,
  PrimaryGeneratedColumn,
  TableInheritance,
  Unique,
  UpdateDateColumn,
  VersionColumn,
} from 'typeorm';

export enum Tide {
  High = 'high',
  Low = "neap's low",
}

export enum Grade {
  First = 1,
  Second,
}

@Entity()
export class EveryType {
  @PrimaryGeneratedColumn()
  id!: number;

  @Column()
  inferredText!: string;

  @Column()
  inferredNumber!: number;

  @Column()
  inferredTruth!: boolean;

  @Column()
  inferredDate!: Date;

  @Column()
  inferredTide!: Tide;

  @Column('tinyint')
  tiny!: number;

  @Column({ type: 'tinyint' })
  flag!: number;

  @Column('smallint')
  small!: number;

  @Column('mediumint')
  medium!: number;

  @Column({ type: 'int', unsigned: true })
  unsigned!: number;

  @Column({ type: 'bigint', unsigned: true })
  bigUnsigned!: string;

  @Column('bigint')
  big!: string;

  @Column({ type: 'numeric', precision: 12, scale: 4 })
  exact!: string;

  @Column({ type: 'decimal', precision: 6 })
  exactWhole!: string;

  @Column('decimal')
  anyNumber!: string;

  @Column('float')
  single!: number;

  @Column('double')
  double!: number;

  @Column('real')
  real!: number;

  @Column({ type: 'char', length: 3 })
  fixed!: string;

  @Column({ type: 'varchar', length: '24' })
  bounded!: string;

  @Column({ collation: 'utf8mb4_bin' })
  exactText!: string;

  @Column('text')
  text!: string;

  @Column('mediumtext')
  mediumText!: string;

  @Column('longtext')
  long!: string;

  @Column({ type: 'varbinary', length: 40 })
  bytes!: Buffer;

  @Column({ type: 'binary', length: 16 })
  fixedBytes!: Buffer;

  @Column('blob')
  blob!: Buffer;

  @Column('longblob')
  longBlob!: Buffer;

  @Column('date')
  day!: string;

  @Column('time')
  clock!: string;

  @Column({ type: 'datetime', precision: 3 })
  moment!: Date;

  @Column({ type: 'timestamp', nullable: true })
  zoned!: Date | null;

  @Column('year')
  year!: number;

  @Column('uuid')
  identifier!: string;

  @Column('json')
  document!: object;

  @Column({ type: 'json', nullable: true })
  documentMaybe!: object | null;

  @Column('simple-array')
  list!: string[];

  @Column('simple-json')
  bag!: object;

  @Column({ type: 'enum', enum: Tide })
  tide!: Tide;

  @Column({ type: 'enum', enum: Grade })
  grade!: Grade;

  @Column({ type: 'simple-enum', enum: ['port', 'starboard'], default: 'port' })
  side!: string;
}

@Entity({ name: 'every_default' })
export class EveryDefault {
  @PrimaryGeneratedColumn('uuid')
  id!: string;

  @Column({ default: 'plain' })
  text!: string;

  @Column({ default: () => "'it''s stored'" })
  quoted!: string;

  @Column({ default: 7 })
  number!: number;

  @Column({ default: true })
  truth!: boolean;

  @Column({ type: 'numeric', precision: 8, scale: 2, default: 2.5 })
  exact!: string;

  @Column({ type: 'datetime', precision: 6, default: () => 'CURRENT_TIMESTAMP(6)' })
  made!: Date;

  @Column({ type: 'timestamp', default: () => 'CURRENT_TIMESTAMP', onUpdate: 'CURRENT_TIMESTAMP' })
  touched!: Date;

  @Column({ default: null, nullable: true, type: 'varchar' })
  nothing!: string | null;

  @Column('uuid')
  @Generated('uuid')
  token!: string;

  @Column()
  initialised: string = 'in the code';

  @CreateDateColumn()
  created!: Date;

  @UpdateDateColumn({ type: 'timestamp' })
  updated!: Date;

  @DeleteDateColumn()
  deleted!: Date | null;

  @VersionColumn()
  version!: number;

  @Column({ type: 'enum', enum: Tide, default: Tide.High })
  tide!: Tide;
}

@Entity('harbour_options')
@Index(['first', 'second'])
@Index('options_named', ['second'])
@Index('options_some', ['third'], { where: '`first` > 3' })
@Unique(['first', 'third'])
@Unique('options_unique', ['second', 'third'])
@Unique('options_late', ['first', 'second'], { deferrable: 'INITIALLY DEFERRED' })
@Check('options_check', '`second` < 100')
@Exclusion('options_apart', 'USING gist (`first` WITH =)')
export class EveryOption {
  @PrimaryGeneratedColumn({ type: 'bigint', unsigned: true })
  id!: string;

  @Column()
  first!: number;

  @Column()
  second!: number;

  @Column({ nullable: true })
  third?: number;

  @Column({ length: 10, unique: true })
  code!: string;

  @Index()
  @Column({ length: 10, name: 'Other Name', comment: 'it\'s "charted"' })
  label!: string;

  @Index({ unique: true })
  @Column()
  sole!: number;

  @Column({ type: 'int', asExpression: '`first` * 2', generatedType: 'STORED', nullable: true })
  doubled!: number | null;

  @Column({ type: 'varchar', length: 12, asExpression: 'upper(`code`)', nullable: true })
  shouted!: string | null;
}

@Entity({ comment: 'one row for each sounding' })
export class Sounding {
  @PrimaryColumn()
  left!: number;

  @PrimaryColumn({ length: 7 })
  right!: string;
}

@Entity()
export class Line {
  @PrimaryColumn({ length: 7 })
  code!: string;

  @Column({ unique: true })
  number!: number;

  @OneToMany(() => Crane, (crane) => crane.line)
  cranes!: Crane[];

  @ManyToMany(() => Crane, (crane) => crane.both)
  both!: Crane[];
}

@Entity()
export class Crane {
  @PrimaryGeneratedColumn({ unsigned: true })
  id!: number;

  @ManyToOne(() => Line, (line) => line.cranes, { nullable: false, onDelete: 'CASCADE', onUpdate: 'CASCADE' })
  line!: Line;

  @ManyToOne(() => Line, { onDelete: 'SET NULL', deferrable: 'INITIALLY DEFERRED' })
  @JoinColumn({ name: 'spare_line' })
  spare!: Line | null;

  @ManyToOne(() => Line)
  @JoinColumn({ name: 'line_number', referencedColumnName: 'number' })
  byNumber!: Line | null;

  @Index()
  @ManyToOne(() => Crane)
  beside!: Crane | null;

  @Column({ nullable: true })
  ownLineCode!: string;

  @ManyToOne(() => Line, { createForeignKeyConstraints: false })
  @JoinColumn({ name: 'spareCode' })
  unkept!: Line | null;

  @OneToOne(() => Line, { onDelete: 'RESTRICT' })
  @JoinColumn()
  only!: Line | null;

  @ManyToMany(() => Line)
  @JoinTable()
  lines!: Line[];

  @ManyToMany(() => Line, (line) => line.both)
  @JoinTable({ name: 'crane_both', joinColumn: { name: 'crane' }, inverseJoinColumn: { name: 'line' } })
  both!: Line[];

  @ManyToMany(() => Crane)
  @JoinTable()
  friends!: Crane[];
}

@Entity()
export class Shift {
  @PrimaryColumn()
  day!: number;

  @PrimaryColumn({ unsigned: true })
  craneId!: number;

  @ManyToOne(() => Crane, { onDelete: 'CASCADE' })
  crane!: Crane;
}

@Entity()
@TableInheritance({ column: { type: 'varchar', name: 'kind' } })
export class Craft {
  @PrimaryGeneratedColumn()
  id!: number;

  @Column()
  name!: string;
}

@ChildEntity()
export class Tug extends Craft {
  @Column()
  pull!: number;
}

@ChildEntity('ferry')
export class Ferry extends Craft {
  @Column({ default: 4 })
  decks!: number;
}

export const BuoySchema = new EntitySchema<any>({
  name: 'Buoy',
  tableName: 'buoys',
  columns: {
    id: { type: 'int', primary: true, generated: true, unsigned: true },
    name: { type: String, length: 40, unique: true },
    side: { type: 'enum', enum: ['port', 'starboard'], default: 'port' },
    token: { type: 'uuid', generated: 'uuid' },
    lit: { type: 'boolean', default: false },
    madeAt: { type: 'datetime', createDate: true },
    changedAt: { type: 'datetime', updateDate: true },
    seenAt: { type: 'timestamp', name: 'seen_at', nullable: true, onUpdate: 'CURRENT_TIMESTAMP' },
  },
});
