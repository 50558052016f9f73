import { Schema, model } from 'mongoose';

export const berthSchema = new Schema({
  quay: { type: Schema.Types.ObjectId, ref: 'Quay', required: true, index: true },
  beside: { type: Schema.Types.ObjectId, ref: 'Berth' },
  number: { type: Schema.Types.Int32, required: true, min: 1 },
  length: { type: Schema.Types.Decimal128, required: true },
  maxDraught: Schema.Types.Decimal128,
  shorePower: { type: Boolean, default: false },
});

berthSchema.index({ quay: 1, number: 1 }, { unique: true });
berthSchema.virtual('neighbours', { ref: 'Berth', localField: '_id', foreignField: 'beside' });
berthSchema.virtual('portCalls', { ref: 'PortCall', localField: '_id', foreignField: 'berth' });

export const Berth = model('Berth', berthSchema);
