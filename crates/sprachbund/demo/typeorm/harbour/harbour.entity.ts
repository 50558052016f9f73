import { Column, Entity, OneToMany, PrimaryColumn } from 'typeorm';
import { Quay } from './quay.entity';
import { TideWindow } from './tide-window.entity';

@Entity('harbours', { orderBy: { name: 'ASC' } })
export class Harbour {
  @PrimaryColumn({ length: 5 })
  code!: string;

  @Column({ length: 80, unique: true })
  name!: string;

  @Column({ length: 40, name: 'time_zone', default: 'UTC' })
  timeZone!: string;

  @OneToMany(() => Quay, (quay) => quay.harbour)
  quays!: Quay[];

  @OneToMany(() => TideWindow, (window) => window.harbour)
  tideWindows!: TideWindow[];
}
