import { Column, Entity, JoinColumn, OneToOne, PrimaryGeneratedColumn } from 'typeorm';
import { Vessel } from './vessel.entity';

@Entity('certificates')
export class Certificate {
  @PrimaryGeneratedColumn('identity', { type: 'bigint' })
  id!: string;

  @OneToOne(() => Vessel, (vessel) => vessel.certificate, { nullable: false, onDelete: 'CASCADE' })
  @JoinColumn({ name: 'vessel_id' })
  vessel!: Vessel;

  @Column({ type: 'uuid', unique: true })
  number!: string;

  @Column({ type: 'date', name: 'issued_on' })
  issuedOn!: string;

  @Column({ type: 'date', name: 'expires_on', nullable: true })
  expiresOn!: string | null;
}
