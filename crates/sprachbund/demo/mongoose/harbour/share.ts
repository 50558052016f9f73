import { Schema } from 'mongoose';

/** What an owner has of a vessel. */
export const shareSchema = new Schema(
  {
    owner: { type: Schema.Types.ObjectId, ref: 'Owner', required: true },
    share: { type: Schema.Types.Decimal128, required: true, default: '1' },
  },
  { _id: false },
);
