import {
  ChildEntity,
  Column,
  CreateDateColumn,
  Entity,
  EntitySchema,
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
} from 'typeorm';

export abstract class Recorded {
  @CreateDateColumn()
  recordedAt!: Date;
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
export class Crane extends Recorded {
  @PrimaryGeneratedColumn()
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
  @JoinColumn({ name: 'ownLineCode' })
  ownLine!: Line | null;

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

  @PrimaryColumn()
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

@Entity()
export class HTTPLogV2 extends Line {
  @Column()
  more!: string;
}

export const BuoySchema = new EntitySchema<any>({
  name: 'Buoy',
  tableName: 'buoys',
  columns: {
    id: { type: 'int', primary: true, generated: true },
    name: { type: String, length: 40, unique: true },
    lit: { type: 'boolean', default: false },
    seenAt: { type: 'timestamptz', name: 'seen_at', nullable: true },
    madeAt: { type: 'timestamptz', createDate: true },
    side: { type: 'enum', enum: ['port', 'starboard'], enumName: 'buoy_side' },
    token: { type: 'uuid', generated: 'uuid' },
  },
  relations: {
    channel: { type: 'many-to-one', target: 'Channel', joinColumn: { name: 'channel_code' }, onDelete: 'CASCADE', nullable: false },
  },
  indices: [{ name: 'buoys_by_time', columns: ['seenAt', 'lit'] }],
  uniques: [{ columns: ['name', 'lit'] }],
  checks: [{ name: 'buoys_named', expression: `"name" <> ''` }],
});

export const ChannelSchema = new EntitySchema<any>({
  name: 'Channel',
  columns: {
    code: { type: 'varchar', length: 5, primary: true },
    depth: { type: 'numeric', precision: 5, scale: 2 },
  },
});

/** The column of a relation is called after the attribute that it refers to, not after its column. */
@Entity()
export class Beacon {
  @PrimaryColumn({ name: 'code' })
  number!: number;
}

@Entity()
export class Flare {
  @PrimaryGeneratedColumn()
  id!: number;

  @ManyToOne(() => Beacon)
  beacon!: Beacon | null;
}
