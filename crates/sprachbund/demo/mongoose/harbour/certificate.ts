import { Schema, model } from 'mongoose';

export const certificateSchema = new Schema({
  vessel: { type: Schema.Types.ObjectId, ref: 'Vessel', required: true, unique: true },
  number: { type: String, required: true, maxlength: 30, unique: true },
  issuedOn: { type: Date, required: true },
  expiresOn: Date,
});

export const Certificate = model('Certificate', certificateSchema);
