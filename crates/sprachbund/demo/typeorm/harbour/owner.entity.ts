import { Column, Entity, OneToMany, PrimaryGeneratedColumn } from 'typeorm';
import { Ownership } from './ownership.entity';
import { Recorded } from './recorded';

@Entity('owners')
export class Owner extends Recorded {
  @PrimaryGeneratedColumn('identity', { type: 'bigint' })
  id!: string;

  @Column({ length: 120 })
  name!: string;

  @Column({ length: 254, unique: true })
  email!: string;

  @Column({ length: 2 })
  country: string = 'unknown';

  @OneToMany(() => Ownership, (share) => share.owner)
  shares!: Ownership[];
}
