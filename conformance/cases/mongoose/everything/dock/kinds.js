const mongoose = require('mongoose');
const { Schema } = mongoose;

const craftSchema = new Schema({ name: { type: String, required: true } }, { discriminatorKey: 'kind', timestamps: true });
const Craft = mongoose.model('Craft', craftSchema);
const Tug = Craft.discriminator('Tug', new Schema({ pull: { type: Number, required: true } }));
const Ferry = Craft.discriminator('Ferry', new Schema({ seats: Number, route: { from: String, to: String } }), 'ferry');

// Documents inside others are of several kinds, too.
const routeSchema = new Schema({ stops: [new Schema({ name: String }, { discriminatorKey: 'at', _id: false })], end: new Schema({ name: String }) });
const stops = routeSchema.path('stops');
stops.discriminator('Pier', new Schema({ deck: { type: Number, required: true } }, { _id: false }));
routeSchema.path('stops').discriminator('Anchorage', new Schema({ depth: Number }, { _id: false }), 'anchored');
const Route = mongoose.model('Route', routeSchema);

// Functions make models of connections, too.
function register(connection) {
  const barge = new Schema({ holds: { type: Number, default: 1 } });
  return { Barge: connection.model('Barge', barge) };
}
module.exports = { Route, Craft, Tug, Ferry, register };
