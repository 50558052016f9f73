const mongoose = require('mongoose');

const buoySchema = new mongoose.Schema({
  number: { type: Number, required: true, unique: true },
  mark: { type: String, unique: true },
  light: { type: String, unique: true, sparse: true },
  colour: { type: String, index: true },
  shape: { type: String, index: { unique: true, name: 'by_shape' } },
  height: { type: Number, index: -1 },
  bell: { type: Boolean, sparse: true },
  name: { type: String, text: true },
  place: { type: [Number], index: '2dsphere' },
  seenAt: { type: Date, expires: '30d' },
  tags: [{ type: String, index: true }],
  depth: { low: { type: Number, index: true }, high: Number },
  owner: String,
  code: String,
});
buoySchema.index({ owner: 1, code: -1 });
buoySchema.index({ owner: 1, number: 1 }, { unique: true });
buoySchema.index({ code: 1, number: 1 }, { unique: true, name: 'code_of' });
buoySchema.index({ number: 1, 'depth.high': -1 });
buoySchema.index({ 'depth.high': -1 });
buoySchema.index({ code: 1 }, { partialFilterExpression: { owner: { $exists: true }, number: { $gte: 3 } } });
buoySchema.index({ owner: 'text', code: 'text' }, { name: 'words' });
buoySchema.index({ code: 'hashed' });
buoySchema.index({ seenAt: 1 }, { expireAfterSeconds: 60 });
buoySchema.index({ owner: 1 }, { unique: true, sparse: true });

module.exports = mongoose.model('Buoy', buoySchema);
