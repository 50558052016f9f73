import { Column, Entity, Index, JoinColumn, ManyToOne, OneToOne, PrimaryGeneratedColumn } from 'typeorm';
import { Berth } from './berth.entity';
import { CallStatus } from './call-status.enum';
import { Invoice } from './invoice.entity';
import { Pilot } from './pilot.entity';
import { Recorded } from './recorded';
import { TideWindow } from './tide-window.entity';
import { Vessel } from './vessel.entity';

@Entity('port_calls', { orderBy: { arrivesAt: 'DESC' } })
@Index('call_by_status', ['status', 'arrivesAt'])
@Index('call_moored', ['berth'], { where: `"status" = 'moored'` })
export class PortCall extends Recorded {
  @PrimaryGeneratedColumn('identity', { type: 'bigint' })
  id!: string;

  @Column({ length: 24, unique: true })
  reference!: string;

  @Index()
  @ManyToOne(() => Vessel, (vessel) => vessel.portCalls, { nullable: false, onDelete: 'RESTRICT' })
  @JoinColumn({ name: 'vessel_id' })
  vessel!: Vessel;

  @ManyToOne(() => Berth, (berth) => berth.portCalls, { onDelete: 'RESTRICT' })
  @JoinColumn({ name: 'berth_id' })
  berth!: Berth | null;

  @Index()
  @ManyToOne(() => Pilot, { nullable: false, onDelete: 'SET NULL' })
  @JoinColumn({ name: 'pilot_id' })
  pilot!: Pilot;

  @Index()
  @ManyToOne(() => TideWindow, { onDelete: 'SET NULL' })
  @JoinColumn({ name: 'tide_window_id' })
  tideWindow!: TideWindow | null;

  @Column({ length: 16, default: CallStatus.Expected })
  status!: CallStatus;

  @Column({ type: 'timestamptz', name: 'arrives_at' })
  arrivesAt: Date = new Date();

  @Column({ type: 'text' })
  remarks: string = '';

  @OneToOne(() => Invoice, (invoice) => invoice.portCall)
  invoice!: Invoice | null;
}
