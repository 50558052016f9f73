import { CreateDateColumn, UpdateDateColumn } from 'typeorm';

/** What every record of the register keeps about itself. */
export abstract class Recorded {
  @CreateDateColumn({ type: 'timestamptz', name: 'recorded_at' })
  recordedAt!: Date;

  @UpdateDateColumn({ type: 'timestamptz', name: 'changed_at' })
  changedAt!: Date;
}
