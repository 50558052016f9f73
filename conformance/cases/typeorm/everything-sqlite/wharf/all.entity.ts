import { Check, Column, CreateDateColumn, Entity, Index, JoinTable, ManyToMany, ManyToOne, OneToMany, PrimaryGeneratedColumn, Unique, UpdateDateColumn } from 'typeorm';

export enum Tide {
  High = 'high',
  Low = 'low',
}

@Entity()
export class Line {
  @PrimaryGeneratedColumn('uuid')
  id!: string;

  @Column({ length: 20, unique: true })
  name!: string;

  @OneToMany(() => Crane, (crane) => crane.line)
  cranes!: Crane[];
}

@Entity()
@Unique(['text', 'number'])
@Index('crane_some', ['number'], { where: '"number" > 3' })
@Check('crane_check', '"number" >= 0')
export class Crane {
  @PrimaryGeneratedColumn()
  id!: number;

  @Column()
  text!: string;

  @Column({ default: 7 })
  number!: number;

  @Column({ default: true })
  truth!: boolean;

  @Column()
  moment!: Date;

  @Column('bigint')
  big!: string;

  @Column({ type: 'decimal', precision: 12, scale: 2 })
  exact!: string;

  @Column('double')
  double!: number;

  @Column('float')
  single!: number;

  @Column('date')
  day!: string;

  @Column('simple-json')
  bag!: object;

  @Column({ type: 'simple-enum', enum: Tide, default: Tide.High })
  tide!: Tide;

  @CreateDateColumn()
  created!: Date;

  @UpdateDateColumn()
  updated!: Date;

  @Index()
  @ManyToOne(() => Line, (line) => line.cranes, { onDelete: 'CASCADE', nullable: false })
  line!: Line;

  @ManyToMany(() => Line)
  @JoinTable()
  lines!: Line[];
}
