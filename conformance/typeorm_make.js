// Lets TypeORM create the tables of entities that were compiled to JavaScript.
//
// usage: node typeorm_make.js FOLDER DATABASE   (DATABASE: postgres URL, or sqlite:PATH)

require('reflect-metadata');
const fs = require('node:fs');
const path = require('node:path');
const { DataSource } = require('typeorm');

function files(folder) {
  return fs.readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const at = path.join(folder, entry.name);
    return entry.isDirectory() ? files(at) : at.endsWith('.js') ? [at] : [];
  });
}

async function main(folder, database) {
  const entities = files(path.resolve(folder)).flatMap((file) =>
    Object.values(require(file)).filter((value) => typeof value === 'function' || value?.options?.columns),
  );
  const sqlite = database.startsWith('sqlite:');
  const source = new DataSource(
    sqlite
      ? { type: 'sqljs', location: database.slice(7), autoSave: true, entities, synchronize: true }
      : { type: 'postgres', url: database, entities, synchronize: true, installExtensions: true },
  );
  await source.initialize();
  if (sqlite) await source.driver.save();
  await source.destroy();
}

main(process.argv[2], process.argv[3]).catch((error) => {
  console.error(error.message);
  process.exit(1);
});
