import { Schema, model } from 'mongoose';

export const quaySchema = new Schema({
  harbour: { type: Schema.Types.ObjectId, ref: 'Harbour', required: true },
  name: { type: String, required: true, maxlength: 60 },
  length: Schema.Types.Decimal128,
});

quaySchema.index({ harbour: 1, name: 1 }, { unique: true });
quaySchema.virtual('berths', { ref: 'Berth', localField: '_id', foreignField: 'quay' });

export const Quay = model('Quay', quaySchema);
