const mongoose = require('mongoose');
const { Schema } = mongoose;
const { common, lampSchema } = require('./parts.cjs');

const boltSchema = new Schema({ size: { type: Number, index: true } }, { _id: false });

const lightSchema = new Schema({
  ...common,
  lamp: lampSchema,
  spare: { type: lampSchema, required: true },
  lamps: [lampSchema],
  bolts: { type: [boltSchema], default: undefined },
  inPlace: { type: { width: Number, height: { type: Number, default: 2 } } },
  list: [{ name: { type: String, required: true }, parts: [{ code: String, _id: false }] }],
  tower: {
    height: { type: Number, required: true },
    stairs: { steps: Number, lit: { type: Boolean, default: true } },
    keeper: { type: Schema.Types.ObjectId, ref: 'Keeper' },
  },
});
lightSchema.add({ painted: Date });
lightSchema.set('collection', 'lights of the coast');

const keeperSchema = new Schema({ name: String });
keeperSchema.virtual('lights', { ref: 'Light', localField: '_id', foreignField: 'tower.keeper' });
keeperSchema.virtual('initials').get(function () { return this.name[0]; });
keeperSchema.pre('save', function () {});

module.exports.Light = mongoose.model('Light', lightSchema);
module.exports.Keeper = mongoose.model('Keeper', keeperSchema);
