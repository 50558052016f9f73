// Tells what Mongoose itself knows of the models in files of JavaScript: paths and indexes, one line of JSON. No server is needed.
//
// usage: node mongoose_report.js FOLDER_OR_FILE...

const fs = require('node:fs');
const path = require('node:path');
const mongoose = require('mongoose');

// Options of other versions do not matter here.
const set = mongoose.set.bind(mongoose);
mongoose.set = (...given) => {
  try {
    return set(...given);
  } catch {
    return mongoose;
  }
};
mongoose.set('autoIndex', false);
mongoose.set('autoCreate', false);

function files(place) {
  if (fs.statSync(place).isFile()) return [place];
  return fs.readdirSync(place, { withFileTypes: true }).flatMap((entry) => {
    const at = path.join(place, entry.name);
    return entry.isDirectory() ? files(at) : /\.c?js$/.test(at) ? [at] : [];
  });
}

// A constant, or that a function makes it.
function fallback(type) {
  const value = type.defaultValue;
  if (value === undefined || value === null) return null;
  if (typeof value !== 'function') return { value };
  if (value === Date.now) return { made: true };
  try {
    const [one, two] = [value.call({}), value.call({})];
    if (typeof one === 'number' && Math.abs(one - Date.now()) < 60000) return { made: true };
    if (one === new Date().toISOString().slice(0, 10)) return { made: true };
    if (one instanceof Map) return { made: true };
    const same = JSON.stringify(one) === JSON.stringify(two) && !(one instanceof Date) && one !== undefined;
    return same ? { value: one } : { made: true };
  } catch {
    return { made: true };
  }
}

// The first of a value and its message.
const limit = (value) => (Array.isArray(value) ? value[0] : value);

function validators(type) {
  const found = {};
  for (const each of type.validators ?? []) {
    for (const name of ['min', 'max', 'minlength', 'maxlength']) if (each.type === name) found[name] = each[name];
    if (each.type === 'enum') found.enum = each.enumValues;
    if (each.type === 'regexp') found.match = String(each.regexp);
  }
  return found;
}

// Release 6 writes the last letter large.
const word = (type) => ({ Double: 'Number', ObjectID: 'ObjectId' })[type.instance] ?? type.instance;

function items(type) {
  const inner = type.embeddedSchemaType ?? type.$embeddedSchemaType;
  return inner?.instance === 'Array' ? `Array of ${items(inner)}` : word(inner);
}

function reference(options) {
  const named = (ref) => (typeof ref === 'string' ? ref : (ref?.modelName ?? null));
  const of = options?.ref ?? options?.type?.[0]?.ref;
  return of === undefined ? null : typeof of === 'function' && !of.modelName ? named(of()) : named(of);
}

// What stands in documents inside others, of whatever kind they are.
function inside(type, at) {
  const kinds = Object.values((type.Constructor ?? type.caster)?.discriminators ?? {});
  return Object.assign({}, ...kinds.map((kind) => paths(kind.schema, `${at}.`)), paths(type.schema, `${at}.`));
}

// What stands in a document, and in the documents inside it.
function paths(schema, prefix = '') {
  const found = {};
  for (const [name, type] of Object.entries(schema.paths)) {
    const about = { required: !!type.isRequired && typeof limit(type.options.required) !== 'function', default: fallback(type) };
    const at = prefix + name;
    if (type.$isMongooseDocumentArray) Object.assign(found, { [at]: { ...about, type: 'documents' } }, inside(type, at));
    else if (name.endsWith('.$*')) continue;
    else if (type.instance === 'Map') {
      const inner = schema.paths[`${name}.$*`];
      const keyed = inner?.schema;
      Object.assign(found, { [at]: { ...about, type: keyed ? 'documents by key' : `Map of ${word(inner)}` } }, keyed ? paths(keyed, `${at}.`) : {});
    } else if (type.schema) Object.assign(found, { [at]: { ...about, type: 'document' } }, inside(type, at));
    else {
      const list = type.instance === 'Array';
      const caster = list ? (type.embeddedSchemaType ?? type.caster) : null;
      const own = list ? { enum: validators(caster).enum } : validators(type);
      const target = reference(type.options) ?? (caster ? reference(caster.options) : null);
      found[at] = { ...about, ...own, type: list ? `Array of ${items(type)}` : word(type), ref: target };
    }
  }
  return found;
}

const loaded = process.argv.slice(2).flatMap((place) => files(path.resolve(place))).map((file) => require(file));
// Functions that take a connection and make the models.
for (const exported of loaded) if (exported?.register) exported.register(mongoose);
const models = {};
for (const model of Object.values(mongoose.models)) {
  // A kind of another model stands in its collection.
  const { schema } = model.baseModelName ? {} : model;
  if (!schema) continue;
  const kinds = Object.values(model.discriminators ?? {}).map((kind) => paths(kind.schema));
  const own = Object.assign({}, ...kinds, paths(schema));
  const indexes = schema.indexes().map(([keys, options]) => {
    const { background, ...rest } = options;
    return [typeof keys === 'string' ? [[keys, 1]] : Object.entries(keys), rest];
  });
  models[model.collection.name] = { paths: own, indexes };
}
// What a package left running does not matter here.
process.stdout.write(`${JSON.stringify(models)}\n`, () => process.exit(0));
