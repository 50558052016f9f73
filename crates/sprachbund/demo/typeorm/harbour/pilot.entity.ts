import { Column, Entity, OneToMany, PrimaryGeneratedColumn } from 'typeorm';
import { PilotLicence } from './pilot-licence.entity';

@Entity('pilots')
export class Pilot {
  @PrimaryGeneratedColumn('identity', { type: 'bigint' })
  id!: string;

  @Column({ length: 80 })
  name!: string;

  @Column({ length: 20, name: 'radio_name', nullable: true, unique: true })
  radioName!: string;

  @Column({ type: 'smallint' })
  grade: number = 1;

  @OneToMany(() => PilotLicence, (licence) => licence.pilot)
  licences!: PilotLicence[];
}
