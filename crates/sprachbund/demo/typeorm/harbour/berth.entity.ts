import { Check, Column, Entity, Index, JoinColumn, ManyToOne, OneToMany, PrimaryGeneratedColumn, Unique } from 'typeorm';
import { PortCall } from './port-call.entity';
import { Quay } from './quay.entity';

@Entity('berths')
@Unique(['quay', 'number'])
@Check('berth_number_counts', '"number" >= 0')
export class Berth {
  @PrimaryGeneratedColumn('identity', { type: 'bigint' })
  id!: string;

  @ManyToOne(() => Quay, (quay) => quay.berths, { nullable: false, onDelete: 'RESTRICT' })
  @JoinColumn({ name: 'quay_id' })
  quay!: Quay;

  @Index()
  @ManyToOne(() => Berth, (berth) => berth.neighbours, { onDelete: 'SET NULL' })
  @JoinColumn({ name: 'beside_id' })
  beside!: Berth | null;

  @OneToMany(() => Berth, (berth) => berth.beside)
  neighbours!: Berth[];

  @Column({ type: 'smallint' })
  number!: number;

  @Column({ type: 'numeric', precision: 6, scale: 2 })
  length!: string;

  @Column({ type: 'numeric', precision: 4, scale: 2, name: 'max_draught' })
  maxDraught?: string;

  @Column({ name: 'shore_power', default: false })
  shorePower!: boolean;

  @OneToMany(() => PortCall, (call) => call.berth)
  portCalls!: PortCall[];
}
