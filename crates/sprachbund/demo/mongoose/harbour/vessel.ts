import { Schema, model } from 'mongoose';
import { shareSchema } from './share';

export const vesselSchema = new Schema(
  {
    imoNumber: { type: String, required: true, minlength: 7, maxlength: 7, unique: true },
    name: { type: String, require: true },
    flag: { type: String, required: true, maxlength: 2, index: true },
    dimensions: {
      length: { type: Schema.Types.Decimal128, required: true },
      draught: { type: Schema.Types.Decimal128, required: true },
    },
    shares: [shareSchema],
    calledAt: [{ type: Schema.Types.ObjectId, ref: 'Harbour' }],
  },
  { timestamps: { createdAt: 'recordedAt', updatedAt: 'changedAt' } },
);

vesselSchema.index({ name: 1, 'dimensions.length': -1 });
vesselSchema.index({ 'shares.owner': 1 });
vesselSchema.virtual('portCalls', { ref: 'PortCall', localField: '_id', foreignField: 'vessel' });

export const Vessel = model('Vessel', vesselSchema);
