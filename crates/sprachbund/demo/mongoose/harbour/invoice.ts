import { Schema, model } from 'mongoose';

export const invoiceSchema = new Schema(
  {
    portCall: { type: Schema.Types.ObjectId, ref: 'PortCall', required: true, unique: true },
    number: { type: String, required: true, maxlength: 20, unique: true },
    harbourFee: { type: Number, required: true },
    pilotFee: { type: Number, required: true, default: 0 },
    total: { type: Schema.Types.Decimal128, required: true },
    paidAt: Date,
  },
  { timestamps: { createdAt: 'recordedAt', updatedAt: 'changedAt' } },
);

export const Invoice = model('Invoice', invoiceSchema);
