import { Schema, model } from 'mongoose';

export const ownerSchema = new Schema({
  name: { type: String, required: true, maxlength: 120 },
  email: { type: String, lowercase: true, trim: true, unique: true },
  telephone: String,
});

export const Owner = model('Owner', ownerSchema);
