// Parses the files of folders (named on standard input, one a line) as what they are: a line of JSON for each folder, with the
// shape of what stands in it, or with the fault.
//
// usage: node hostile_check.mjs FOLDER_OF_NODE_MODULES

import fs from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';

const require = createRequire(path.join(process.argv[2], 'any.js'));
const ts = require('typescript');
const prisma = require('@prisma/prisma-schema-wasm');
globalThis.PRISMA_WASM_PANIC_REGISTRY = { set_message: () => {} };

const files = (folder) => fs.readdirSync(folder, { recursive: true }).map((name) => path.join(folder, name)).sort();

/// Statements by their kinds, classes with the number of their members.
function shapeOf(file) {
  const source = ts.createSourceFile(file, fs.readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true, ts.ScriptKind.TS);
  if (source.parseDiagnostics.length > 0) {
    throw new Error(`${path.basename(file)}: ${ts.flattenDiagnosticMessageText(source.parseDiagnostics[0].messageText, ' ')}`);
  }
  const kind = (node) => `${ts.SyntaxKind[node.kind]}${node.members ? `(${node.members.length})` : ''}`;
  return source.statements.map(kind).filter((kind) => kind !== 'ImportDeclaration');
}

function answer(folder) {
  try {
    const schema = files(folder).filter((file) => file.endsWith('.prisma')).map((file) => [file, fs.readFileSync(file, 'utf8')]);
    if (schema.length > 0) {
      prisma.validate(JSON.stringify({ prismaSchema: schema, noColor: true }));
      return { shape: schema.length };
    }
    return { shape: files(folder).filter((file) => file.endsWith('.ts')).map(shapeOf).sort() };
  } catch (error) {
    let message = error.message;
    try {
      message = JSON.parse(message).message;
    } catch {}
    return { fault: message.slice(0, 400) };
  }
}

for (const folder of fs.readFileSync(0, 'utf8').split('\n').filter(Boolean)) {
  console.log(JSON.stringify(answer(folder)));
}
