import { Column, Entity, JoinColumn, OneToOne, PrimaryGeneratedColumn } from 'typeorm';
import { PortCall } from './port-call.entity';
import { Recorded } from './recorded';

@Entity('invoices')
export class Invoice extends Recorded {
  @PrimaryGeneratedColumn('identity', { type: 'bigint' })
  id!: string;

  @OneToOne(() => PortCall, (call) => call.invoice, { nullable: false, onDelete: 'RESTRICT' })
  @JoinColumn({ name: 'port_call_id' })
  portCall!: PortCall;

  @Column({ length: 20, unique: true })
  number!: string;

  @Column({ type: 'double precision', name: 'harbour_fee' })
  harbourFee!: number;

  @Column({ type: 'double precision', name: 'pilot_fee' })
  pilotFee: number = 0;

  @Column({ type: 'numeric', precision: 12, scale: 2 })
  total!: string;

  @Column({ type: 'timestamptz', name: 'paid_at', nullable: true })
  paidAt!: Date | null;
}
