import { Column, Entity, JoinColumn, ManyToOne, PrimaryGeneratedColumn, Unique } from 'typeorm';
import { Owner } from './owner.entity';
import { Vessel } from './vessel.entity';

@Entity('ownerships')
@Unique(['vessel', 'owner'])
export class Ownership {
  @PrimaryGeneratedColumn('identity', { type: 'bigint' })
  id!: string;

  @ManyToOne(() => Vessel, (vessel) => vessel.shares, { nullable: false, onDelete: 'CASCADE' })
  @JoinColumn({ name: 'vessel_id' })
  vessel!: Vessel;

  @ManyToOne(() => Owner, (owner) => owner.shares, { nullable: false, onDelete: 'RESTRICT' })
  @JoinColumn({ name: 'owner_id' })
  owner!: Owner;

  @Column({ type: 'numeric', precision: 5, scale: 4 })
  share: string = '1';
}
