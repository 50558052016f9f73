// Makes the models of @librechat/data-schemas as an application does, which brings its connection.

const { createModels } = require('@librechat/data-schemas');

exports.register = (connection) => createModels(connection);
