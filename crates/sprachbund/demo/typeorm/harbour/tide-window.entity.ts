import { Column, Entity, JoinColumn, ManyToOne, PrimaryGeneratedColumn, Unique } from 'typeorm';
import { Harbour } from './harbour.entity';

@Entity('tide_windows')
@Unique(['harbour', 'opensAt'])
export class TideWindow {
  @PrimaryGeneratedColumn('identity', { type: 'bigint' })
  id!: string;

  @ManyToOne(() => Harbour, (harbour) => harbour.tideWindows, { nullable: false, onDelete: 'CASCADE' })
  @JoinColumn({ name: 'harbour_code' })
  harbour!: Harbour;

  @Column({ type: 'timestamptz', name: 'opens_at' })
  opensAt!: Date;

  @Column({ type: 'timestamptz', name: 'closes_at' })
  closesAt!: Date;
}
