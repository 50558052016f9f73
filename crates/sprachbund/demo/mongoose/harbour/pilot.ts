import { Schema, model } from 'mongoose';

export const pilotSchema = new Schema({
  name: { type: String, required: true, maxlength: 120 },
  licences: [
    {
      number: { type: String, required: true, maxlength: 20 },
      harbour: { type: Schema.Types.ObjectId, ref: 'Harbour', required: true },
      expiresOn: { type: Date, required: true },
    },
  ],
});

pilotSchema.virtual('portCalls', { ref: 'PortCall', localField: '_id', foreignField: 'pilot' });

export const Pilot = model('Pilot', pilotSchema);
