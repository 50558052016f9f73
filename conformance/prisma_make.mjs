// Prints the SQL that Prisma's schema engine would run for schema files, after its own validation of them. The engine that npm
// carries as WebAssembly asks for a live server through an adapter; of that only its version is asked here, and answered. For
// MySQL it has no adapter, and releases before 7 have no such engine: there the schema is validated, and nothing is printed.
//
// usage: node prisma_make.mjs MODULES PROVIDER given|emitted EXTERNAL,TABLES FILE_OR_FOLDER...
//
// What is emitted must also be laid out as Prisma's formatter would.

import fs from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { pathToFileURL } from 'node:url';

const [modules, provider, origin, external, ...places] = process.argv.slice(2);
const require = createRequire(path.join(modules, 'any.js'));
const fault = (error) => {
  let message = error.message;
  try {
    message = JSON.parse(message).message;
  } catch {}
  console.error(message);
  process.exit(1);
};
globalThis.PRISMA_WASM_PANIC_REGISTRY = { set_message: (message) => console.error(message) };

// Releases before 7 have none.
const engineFolder = path.join(modules, 'node_modules/@prisma/schema-engine-wasm');
const newest = fs.existsSync(engineFolder);

const files = (place) => (fs.statSync(place).isFile() ? [place] : fs.readdirSync(place, { recursive: true }).map((name) => path.join(place, name)));
const schema = places
  .flatMap(files)
  .filter((file) => file.endsWith('.prisma'))
  .map((file) => [file, current(fs.readFileSync(file, 'utf8'))]);

// Addresses of databases stood in the schema before version 7, which refuses them there; so did lists of extensions, which the
// harness has installed already.
function current(text) {
  return origin === 'given' && newest ? text.replace(/^\s*(url|directUrl|shadowDatabaseUrl)\s*=.*$/gm, '').replace(/^\s*extensions\s*=.*$/gm, '') : text;
}

function validate() {
  const language = require('@prisma/prisma-schema-wasm');
  language.validate(JSON.stringify({ prismaSchema: schema, noColor: true }));
  if (origin === 'given') return;
  const options = { textDocument: { uri: 'file:/schema.prisma' }, options: { tabSize: 2, insertSpaces: true } };
  const formatted = JSON.parse(language.format(JSON.stringify(schema), JSON.stringify(options)));
  for (const [at, [file, text]] of formatted.entries()) {
    if (text !== schema[at][1]) throw new Error(`${file} is laid out otherwise than Prisma would:\n${text}`);
  }
}

const done = (value) => ({ ok: true, value, map: (next) => done(next(value)), flatMap: (next) => next(value) });
const VERSIONS = [
  [/pg_namespace/, { columnNames: ['exists', 'version', 'numeric_version'], columnTypes: [5, 7, 0], rows: [[true, 'PostgreSQL 15.0', 150000]] }],
  [/sqlite_version/, { columnNames: ['version'], columnTypes: [7], rows: [['3.40.0']] }],
];

async function script() {
  const engine = await import(pathToFileURL(path.join(engineFolder, 'schema_engine_bg.js')));
  const { instance } = await WebAssembly.instantiate(fs.readFileSync(path.join(engineFolder, 'schema_engine_bg.wasm')), { './schema_engine_bg.js': engine });
  engine.__wbg_set_wasm(instance.exports);
  instance.exports.__wbindgen_start();
  const queryRaw = async (query) => done(VERSIONS.find(([asked]) => asked.test(query.sql))?.[1] ?? { columnNames: [], columnTypes: [], rows: [] });
  const none = async () => done(undefined);
  const connection = {
    adapterName: 'none',
    provider: { postgresql: 'postgres', sqlite: 'sqlite' }[provider],
    queryRaw,
    executeRaw: none,
    executeScript: none,
    dispose: none,
    getConnectionInfo: () => done({ supportsRelationJoins: true }),
    errorRegistry: { consumeError() {} },
  };
  const connect = async () => done(connection);
  const adapter = { ...connection, connect, connectToShadowDb: connect };
  const started = await engine.SchemaEngine.new({ datamodels: schema }, () => {}, adapter);
  const externalTables = external ? external.split(',').map((table) => (provider === 'postgresql' ? `public.${table}` : table)) : [];
  const answer = await started.diff({
    from: { tag: 'empty' },
    to: { tag: 'schemaDatamodel', files: schema.map(([path, content]) => ({ path, content })) },
    script: true,
    exitCode: null,
    shadowDatabaseUrl: null,
    filters: { externalTables, externalEnums: [] },
  });
  console.log(answer.stdout);
}

try {
  validate();
  if (provider !== 'mysql' && newest) await script();
} catch (error) {
  fault(error);
}
