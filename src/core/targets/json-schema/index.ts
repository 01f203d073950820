import type { Schema } from '../../declare/index.js';
import type { KnownField } from '../../kinds/index.js';
import { isSent } from '../../model/index.js';
import type { MadeFile, Target } from '../target.js';
import { ledgerOf, saidOf } from './constraints.js';
import { both, type SchemaNode } from './node.js';

/**
 * JSON Schema, draft 2020-12, of records as they are stored: in canonical form, with what is absent left out. Stores of
 * documents and descriptions of interfaces take it. A comment stands where JSON has none: `$comment`.
 */
export const jsonSchema: Target = {
  ledger: ledgerOf,
  problems: () => [],
  emit: (schema) => schema.map(fileOf),
  standsAlone: false,
  onRequest: true,
};

function fileOf(model: Schema[number]): MadeFile {
  const text = `${JSON.stringify(schemaOf(model), null, 2)}\n`;
  return { path: `json-schema/${model.ruleset}.schema.json`, comment: '$comment', from: [model.ruleset], text };
}

/** The schema of one ruleset's documents. */
export function schemaOf(model: Schema[number]): SchemaNode {
  const whole: SchemaNode = {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: model.label,
    ...shapeOf(model.fields),
  };
  return model.constraints.reduce((schema, constraint) => {
    const said = saidOf(constraint, model);
    return 'node' in said ? both(schema, said.node) : schema;
  }, whole);
}

/** The names of all that may be in a record, with their labels. */
export function shapeOf(fields: { readonly [name: string]: KnownField }): SchemaNode {
  const own = Object.values(fields).filter(isInDocument);
  return {
    type: 'object',
    properties: Object.fromEntries(own.map((field) => [field.name, fieldNode(field)])),
    additionalProperties: false,
  };
}

function fieldNode(field: KnownField): SchemaNode {
  const { label, fields, item } = field;
  if (fields !== null) return { title: label, ...shapeOf(fields) };
  return item === null ? { title: label } : { title: label, items: item.fields === null ? {} : shapeOf(item.fields) };
}

export { type Said, saidOf } from './constraints.js';
export type { SchemaNode } from './node.js';

/** What is stored: all that a table would have a column for, and what a server is sent; of a secret, its stored form alone. */
export function isInDocument(field: KnownField): boolean {
  const { enforcedIn, storedAs } = field;
  return storedAs === null && (enforcedIn.includes('database') || (isSent(field) && enforcedIn.includes('server')));
}
