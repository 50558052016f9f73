import { Schema, model } from 'mongoose';
import { CallStatus } from './call-status.enum';

export const portCallSchema = new Schema(
  {
    reference: { type: String, required: true, maxlength: 24, unique: true },
    vessel: { type: Schema.Types.ObjectId, ref: 'Vessel', required: true, index: true },
    berth: { type: Schema.Types.ObjectId, ref: 'Berth' },
    pilot: { type: Schema.Types.ObjectId, ref: 'Pilot', required: true, index: true },
    tideWindow: { type: Schema.Types.ObjectId, ref: 'TideWindow' },
    status: {
      type: String,
      required: true,
      enum: Object.values(CallStatus),
      default: CallStatus.Expected,
    },
    arrivesAt: { type: Date, required: true, default: Date.now },
    remarks: String,
    papers: Schema.Types.Mixed,
  },
  { timestamps: { createdAt: 'recordedAt', updatedAt: 'changedAt' } },
);

portCallSchema.index({ status: 1, arrivesAt: 1 });
portCallSchema.index({ berth: 1 }, { partialFilterExpression: { status: 'moored' } });
portCallSchema.virtual('invoice', {
  ref: 'Invoice',
  localField: '_id',
  foreignField: 'portCall',
  justOne: true,
});

export const PortCall = model('PortCall', portCallSchema);
