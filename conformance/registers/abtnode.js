// Registers the models of @abtnode/models as its own code does, without what only its functions need.

const Module = require('node:module');

const load = Module._load;
const unneeded = new Set(['@arcblock/did', 'lodash.isempty']);
Module._load = (request, ...rest) => (unneeded.has(request) ? {} : load(request, ...rest));

const models = require('@abtnode/models/lib/models/index.js');

exports.register = (sequelize) => {
  const groups = [models.getServerModels, models.getBlockletModels, models.getCertificateManagerModels, models.getConnectModels];
  const all = Object.assign({}, ...groups.map((group) => group()));
  all.Migration = require('@abtnode/models/lib/models/migration.js').createMigrationModel();
  all.Message = require('@abtnode/models/lib/models/message.js').createMessageModel();
  // Its applications take one group or the other, each in an order of its own; here it is that of its files.
  const file = (name) => name.replace(/(?<!^)([A-Z])/g, '-$1').toLowerCase() + '.js';
  const sorted = Object.keys(all).sort((left, right) => (file(left) < file(right) ? -1 : 1));
  models.setupModels(Object.fromEntries(sorted.map((name) => [name, all[name]])), sequelize);
};
