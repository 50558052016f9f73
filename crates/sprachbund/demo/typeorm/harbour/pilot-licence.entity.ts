import { Column, Entity, Index, JoinColumn, ManyToOne, PrimaryGeneratedColumn } from 'typeorm';
import { Harbour } from './harbour.entity';
import { Pilot } from './pilot.entity';

@Entity('pilot_licences')
export class PilotLicence {
  @PrimaryGeneratedColumn('identity', { type: 'bigint' })
  id!: string;

  @Index()
  @ManyToOne(() => Pilot, (pilot) => pilot.licences, { nullable: false, onDelete: 'CASCADE' })
  @JoinColumn({ name: 'pilot_id' })
  pilot!: Pilot;

  @ManyToOne(() => Harbour, { nullable: false, onDelete: 'CASCADE' })
  @JoinColumn({ name: 'harbour_code' })
  harbour!: Harbour;

  @Column({ type: 'date', name: 'valid_until' })
  validUntil!: string;
}
