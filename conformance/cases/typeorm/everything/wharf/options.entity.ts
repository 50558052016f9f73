import { Check, Column, Entity, Exclusion, Index, PrimaryColumn, PrimaryGeneratedColumn, Unique } from 'typeorm';

const SHORT = { length: 10 };
const PREFIX = 'harbour';

export class Position {
  @Column()
  latitude!: number;

  @Column({ name: 'lon' })
  longitude!: number;

  @Column({ type: 'varchar', nullable: true })
  chartName!: string | null;
}

@Entity(`${PREFIX}_options`)
@Index(['first', 'second'])
@Index('options_named', ['second'])
@Index('options_function', (options: EveryOption) => [options.third, options.first], { unique: true })
@Index('options_some', ['third'], { where: '"first" > 3' })
@Unique(['first', 'third'])
@Unique('options_unique', ['second', 'third'])
@Unique('options_late', ['first', 'second'], { deferrable: 'INITIALLY DEFERRED' })
@Check('"first" >= 0')
@Check('options_check', `"second" < 100 OR "third" = 5`)
@Exclusion('options_apart', `USING gist ("first" WITH =)`)
export class EveryOption {
  @PrimaryGeneratedColumn('identity', { type: 'bigint', generatedIdentity: 'ALWAYS' })
  id!: string;

  @Column()
  first!: number;

  @Column()
  second!: number;

  @Column({ nullable: true })
  third?: number;

  @Column({ ...SHORT, unique: true })
  code!: string;

  @Index()
  @Column({ ...SHORT, name: 'Other Name', comment: 'it\'s "charted"' })
  label!: string;

  @Index({ unique: true })
  @Column()
  sole!: number;

  @Column({ type: 'int', asExpression: '"first" * 2', generatedType: 'STORED' })
  doubled!: number;

  @Column({ select: false, update: false })
  secret!: string;

  @Column(() => Position)
  home!: Position;

  @Column(() => Position, { prefix: 'at' })
  place!: Position;

  @Column(() => Position, { prefix: false })
  bare!: Position;
}

@Entity({ comment: 'one row for each sounding' })
export class Sounding {
  @PrimaryColumn()
  left!: number;

  @PrimaryColumn({ length: 7 })
  right!: string;

  @Column({ primary: true })
  third!: number;
}
