import { Check, Column, Entity, Index, OneToMany, OneToOne, PrimaryGeneratedColumn } from 'typeorm';
import { Certificate } from './certificate.entity';
import { Ownership } from './ownership.entity';
import { PortCall } from './port-call.entity';
import { Recorded } from './recorded';

@Entity('vessels')
@Index('vessel_by_name', (vessel: Vessel) => [vessel.name, vessel.length])
@Check('vessel_has_size', '"draught" > 0 AND "length" > 0')
export class Vessel extends Recorded {
  @PrimaryGeneratedColumn('identity', { type: 'bigint' })
  id!: string;

  @Column({ length: 7, name: 'imo_number', unique: true })
  imoNumber!: string;

  @Column()
  name!: string;

  @Index()
  @Column({ length: 2 })
  flag!: string;

  @Column({ type: 'numeric', precision: 6, scale: 2 })
  length!: string;

  @Column({ type: 'numeric', precision: 4, scale: 2 })
  draught!: string;

  @OneToMany(() => Ownership, (share) => share.vessel)
  shares!: Ownership[];

  @OneToOne(() => Certificate, (certificate) => certificate.vessel)
  certificate!: Certificate | null;

  @OneToMany(() => PortCall, (call) => call.vessel)
  portCalls!: PortCall[];
}
