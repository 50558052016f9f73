import { Column, Entity, Index, JoinColumn, ManyToOne, OneToMany, PrimaryGeneratedColumn, Unique } from 'typeorm';
import { Berth } from './berth.entity';
import { Harbour } from './harbour.entity';

@Entity('quays')
@Unique('quay_name_in_harbour', ['harbour', 'name'])
export class Quay {
  @PrimaryGeneratedColumn('identity', { type: 'bigint' })
  id!: string;

  @Index()
  @ManyToOne(() => Harbour, (harbour) => harbour.quays, { nullable: false, onDelete: 'CASCADE' })
  @JoinColumn({ name: 'harbour_code' })
  harbour!: Harbour;

  @Column({ length: 40 })
  name!: string;

  @Column({ type: 'numeric', precision: 5, scale: 2, nullable: true })
  depth!: string;

  @OneToMany(() => Berth, (berth) => berth.quay)
  berths!: Berth[];
}
