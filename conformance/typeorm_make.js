// Lets TypeORM create the tables of entities that were compiled to JavaScript.
//
// usage: node typeorm_make.js DATABASE FOLDER_OR_FILE...   (DATABASE: postgres, mariadb or mysql URL, or sqlite:PATH)

require('reflect-metadata');
const fs = require('node:fs');
const path = require('node:path');
const { pathToFileURL } = require('node:url');
const { DataSource, createConnection } = require('typeorm');

function files(place) {
  if (fs.statSync(place).isFile()) return [place];
  return fs.readdirSync(place, { withFileTypes: true }).flatMap((entry) => {
    const at = path.join(place, entry.name);
    return entry.isDirectory() ? files(at) : at.endsWith('.js') ? [at] : [];
  });
}

async function main(database, ...places) {
  const modules = await Promise.all(places.flatMap((place) => files(path.resolve(place))).map((file) => import(pathToFileURL(file))));
  const exported = modules.flatMap((module) => [...Object.values(module), ...Object.values(module.default ?? {})]);
  const entities = [...new Set(exported)].filter((value) => typeof value === 'function' || value?.options?.columns);
  const sqlite = database.startsWith('sqlite:');
  const options =
    /^(mariadb|mysql):/.test(database)
      ? { type: database.split(':')[0], url: database, entities, synchronize: true, charset: 'utf8mb4' }
      : sqlite
      ? { type: 'sqljs', location: database.slice(7), autoSave: true, entities, synchronize: true }
      : { type: 'postgres', url: database, entities, synchronize: true, installExtensions: true };
  // Before 0.3 a connection was made and opened at once.
  const source = DataSource ? await new DataSource(options).initialize() : await createConnection(options);
  if (sqlite) await source.driver.save();
  await (source.destroy ?? source.close).call(source);
}

main(...process.argv.slice(2)).catch((error) => {
  console.error(error.message);
  process.exit(1);
});
