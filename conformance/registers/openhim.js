// Makes the models of openhim-core without its connections, and without what only its functions need.

const Module = require('node:module');
const mongoose = require('mongoose');

// It makes each model for several connections.
const connection = { model: (name, ...rest) => mongoose.models[name] ?? mongoose.model(name, ...rest) };
const config = { connectionAPI: connection, connectionATNA: connection, connectionDefault: connection, config: { get: () => ({}) } };
const instead = { '../config': config, humps: {}, 'mongoose-patch-history': () => {} };
const load = Module._load;
Module._load = (request, ...rest) => instead[request] ?? load(request, ...rest);

require('openhim-core/lib/model');
