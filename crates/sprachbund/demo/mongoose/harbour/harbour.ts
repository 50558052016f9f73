import { Schema, model } from 'mongoose';

export const harbourSchema = new Schema(
  {
    code: { type: String, required: true, uppercase: true, match: /^[A-Z]{5}$/, unique: true },
    name: { type: String, required: true, maxlength: 80 },
    timeZone: { type: String, required: true, maxlength: 40, default: 'UTC' },
    position: {
      latitude: { type: Number, min: -90, max: 90 },
      longitude: { type: Number, min: -180, max: 180 },
    },
  },
  { timestamps: { createdAt: 'recordedAt', updatedAt: 'changedAt' } },
);

harbourSchema.virtual('quays', { ref: 'Quay', localField: '_id', foreignField: 'harbour' });

export const Harbour = model('Harbour', harbourSchema);
