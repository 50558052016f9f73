import { Column, CreateDateColumn, DeleteDateColumn, Entity, Generated, PrimaryGeneratedColumn, UpdateDateColumn, VersionColumn } from 'typeorm';

export enum Tide {
  High = 'high',
  Low = 'low',
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

  @Column()
  inferredGrade!: Grade;

  @Column()
  inferredUnion!: 'port' | 'starboard';

  @Column('smallint')
  small!: number;

  @Column('int8')
  big!: string;

  @Column({ type: 'numeric', precision: 12, scale: 4 })
  exact!: string;

  @Column({ type: 'decimal', precision: 6 })
  exactWhole!: string;

  @Column('numeric')
  anyNumber!: string;

  @Column('real')
  single!: number;

  @Column('float')
  double!: number;

  @Column({ type: 'char', length: 3 })
  fixed!: string;

  @Column({ type: 'varchar', length: '24' })
  bounded!: string;

  @Column('text')
  long!: string;

  @Column('citext')
  folded!: string;

  @Column('bytea')
  bytes!: Buffer;

  @Column('date')
  day!: string;

  @Column('time')
  clock!: string;

  @Column({ type: 'timestamp', precision: 3 })
  moment!: Date;

  @Column('timestamptz')
  zoned!: Date;

  @Column('interval')
  span!: string;

  @Column('uuid')
  identifier!: string;

  @Column('json')
  document!: object;

  @Column('jsonb')
  binaryDocument!: object;

  @Column('inet')
  address!: string;

  @Column('simple-array')
  list!: string[];

  @Column('simple-json')
  bag!: object;

  @Column({ type: 'text', array: true })
  words!: string[];

  @Column({ type: 'int4range' })
  range!: string;

  @Column('tsvector')
  search!: string;

  @Column({ type: 'enum', enum: Tide })
  tide!: Tide;

  @Column({ type: 'enum', enum: Grade, enumName: 'grade_of_pilot' })
  grade!: Grade;

  @Column({ type: 'simple-enum', enum: ['port', 'starboard'], default: 'port' })
  side!: string;

  @Column({ type: 'hstore' })
  pairs!: object;
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

  @Column({ type: 'timestamptz', default: () => 'now()' })
  made!: Date;

  @Column({ type: 'timestamptz', default: () => 'CURRENT_TIMESTAMP' })
  alsoMade!: Date;

  @Column({ type: 'date', default: () => 'CURRENT_DATE' })
  day!: string;

  @Column({ type: 'jsonb', default: {} })
  bag!: object;

  @Column({ type: 'int', array: true, default: [1, 2] })
  numbers!: number[];

  @Column({ default: null, nullable: true, type: 'varchar' })
  nothing!: string | null;

  @Column('uuid')
  @Generated('uuid')
  token!: string;

  @Column()
  @Generated('increment')
  counter!: number;

  @Column()
  initialised: string = 'in the code';

  @CreateDateColumn()
  created!: Date;

  @UpdateDateColumn({ type: 'timestamptz' })
  updated!: Date;

  @DeleteDateColumn()
  deleted!: Date | null;

  @VersionColumn()
  version!: number;

  @Column({ type: 'enum', enum: Tide, default: Tide.High })
  tide!: Tide;
}
