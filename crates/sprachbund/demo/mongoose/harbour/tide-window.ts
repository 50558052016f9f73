import { Schema, model } from 'mongoose';

export const tideWindowSchema = new Schema({
  harbour: { type: Schema.Types.ObjectId, ref: 'Harbour', required: true },
  opensAt: { type: Date, required: true },
  closesAt: { type: Date, required: true },
  height: Schema.Types.Decimal128,
});

tideWindowSchema.index({ harbour: 1, opensAt: 1 }, { unique: true });

export const TideWindow = model('TideWindow', tideWindowSchema, 'tide_windows');
