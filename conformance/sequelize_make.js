// Lets Sequelize create the tables of models that were compiled to JavaScript.
//
// usage: node sequelize_make.js DATABASE FOLDER_OR_FILE...   (DATABASE: postgresql URL, or sqlite:PATH)

require('reflect-metadata');
const fs = require('node:fs');
const path = require('node:path');
const { DataTypes, Model, Sequelize } = require('sequelize');
const decorated = require('sequelize-typescript');
const sqlite = require('./sqlite_driver.js');

// Marks of classes that declare themselves by decorators.
const OPTIONS = 'sequelize:options';

function files(place) {
  if (fs.statSync(place).isFile()) return [place];
  return fs.readdirSync(place, { withFileTypes: true }).flatMap((entry) => {
    const at = path.join(place, entry.name);
    return entry.isDirectory() ? files(at) : /\.c?js$/.test(at) ? [at] : [];
  });
}

function isClass(value) {
  return typeof value === 'function' && (value.prototype instanceof Model || /^class\b/.test(String(value)));
}

// What a file exports: a function that registers everything, factories of models, or classes.
function register(sequelize, exported) {
  if (exported?.register) return exported.register(sequelize);
  const values = [exported, ...Object.values(exported ?? {})].filter((value) => typeof value === 'function');
  for (const value of new Set(values)) {
    if (isClass(value)) {
      if (Reflect.hasMetadata(OPTIONS, value.prototype)) sequelize.addModels([value]);
    } else if (value.length <= 2) {
      value(sequelize, DataTypes);
    }
  }
}

async function main(database, ...places) {
  const lite = database.startsWith('sqlite:');
  await sqlite.prepare();
  const options = { logging: false };
  const all = places.flatMap((place) => files(path.resolve(place)));
  const whole = all.find((file) => path.basename(file) === 'models.js');
  const loaded = (whole ? [whole] : all).map((file) => require(file));
  const Connection = loaded.some((exported) => Object.values(exported ?? {}).some(isClass)) ? decorated.Sequelize : Sequelize;
  const sequelize = lite
    ? new Connection({ dialect: 'sqlite', storage: database.slice(7), dialectModule: sqlite, ...options })
    : new Connection(database, options);
  loaded.forEach((exported) => register(sequelize, exported));
  const models = sequelize.models;
  // Who registers everything relates it, too.
  if (!loaded.some((exported) => exported.register)) Object.values(models).forEach((model) => model.associate?.(models));
  const schemas = new Set(Object.values(models).map((model) => model.options.schema).filter(Boolean));
  if (!lite) for (const schema of schemas) await sequelize.query(`CREATE SCHEMA IF NOT EXISTS "${schema}"`);
  await sequelize.sync();
  await sequelize.close();
  sqlite.save();
}

main(...process.argv.slice(2)).then(
  // What a package left running does not matter here.
  () => process.exit(0),
  (error) => {
    console.error(error.message, error.sql ?? '');
    process.exit(1);
  },
);
