const mongoose = require('mongoose');
const { Schema } = mongoose;

const craftSchema = new Schema({ name: { type: String, required: true } }, { discriminatorKey: 'kind', timestamps: true });
const Craft = mongoose.model('Craft', craftSchema);
const Tug = Craft.discriminator('Tug', new Schema({ pull: { type: Number, required: true } }));
const Ferry = Craft.discriminator('Ferry', new Schema({ seats: Number, route: { from: String, to: String } }), 'ferry');

// Functions make models of connections, too.
function register(connection) {
  const barge = new Schema({ holds: { type: Number, default: 1 } });
  return { Barge: connection.model('Barge', barge) };
}
module.exports = { Craft, Tug, Ferry, register };
