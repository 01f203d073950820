import { existsSync, readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import type { KnownField } from '../../core/kinds/index.js';
import { ProblemError, problems } from '../../core/messages/index.js';
import { type Answer, type Case, operations, type Row } from '../../core/model/index.js';
import { isInDocument } from '../../core/targets/index.js';
import { type Layer, modelOf, type OpenLayer, rowFor, type Surroundings } from '../layer.js';
import { isValid, type SchemaNode } from './evaluate.js';

/** A collection of documents in this process, whose writes a JSON Schema guards. */
export interface DocumentOptions {
  /** The schema of each ruleset's documents; the compiled ones unless told. */
  readonly schemas?: { readonly [ruleset: string]: string };
}

/**
 * A store without a schema of its own: every write is a document, and taken where its validator finds it right. It says no
 * more than that, and looks nothing up: what is unique, and what a reference leads to, is for the program that writes.
 */
export function documentLayer({ schemas }: DocumentOptions = {}): Layer {
  return {
    kind: 'documents',
    target: 'json-schema',
    rulesets: schemas === undefined ? null : Object.keys(schemas),
    can: { store: false, allViolations: false, wires: ['row'], does: operations, on: ['server'], convertsFirst: false },
    open: async (surroundings) => open(schemas, surroundings),
  };
}

function open(files: DocumentOptions['schemas'], { schema, folder, output }: Surroundings): OpenLayer {
  const known = new Map<string, SchemaNode>();
  const validatorOf = (ruleset: string) => {
    const file =
      files === undefined
        ? resolve(output, `json-schema/${ruleset}.schema.json`)
        : resolve(folder, files[ruleset] ?? '');
    const validator = known.get(ruleset) ?? read(file, files === undefined);
    known.set(ruleset, validator);
    return validator;
  };
  return {
    async *answer(cases) {
      for (const one of cases) yield [one, answerTo(one, validatorOf(one.ruleset), schema)] as const;
    },
    close: async () => {},
  };
}

/** @throws ProblemError for a file that is not there, or is no JSON */
function read(file: string, isCompiled: boolean): SchemaNode {
  if (!existsSync(file))
    throw new ProblemError([
      isCompiled ? problems.notCompiled(null, file) : problems.fileMissing(null, 'The layer', file),
    ]);
  try {
    return JSON.parse(readFileSync(file, 'utf8')) as SchemaNode;
  } catch (error) {
    throw new ProblemError([problems.layerUnreachable(null, 'documents', `${file}: ${(error as Error).message}`)]);
  }
}

/** A document that is put in the place of a stored one, or over parts of it, is written as a whole. */
function answerTo(one: Case, validator: SchemaNode, schema: Surroundings['schema']): Answer {
  const row = rowFor(one, schema);
  if (row === null) return { notApplicable: 'the server refuses it and hands on nothing' };
  const model = modelOf(one.ruleset, schema);
  try {
    const document = documentOf(model.fields, row);
    if (!isValid(validator, document))
      return { refused: [{ pointer: null, rule: null, message: 'the document fails validation' }] };
    return { accepted: readAgain(model.fields, document) as Row };
  } catch (error) {
    return { breakdown: error instanceof Error ? error.message : String(error) };
  }
}

type Fields = { readonly [name: string]: KnownField };
type Given = { readonly [name: string]: unknown };

/** A record as a document: what is absent is left out. What is not declared, or of another type, goes as it is. */
function documentOf(fields: Fields, record: Given): Given {
  const entries = Object.entries(record).flatMap(([name, value]) => {
    const field = Object.hasOwn(fields, name) ? fields[name] : undefined;
    if (field !== undefined && !isInDocument(field)) return [];
    const inner = field === undefined ? value : written(field, value);
    const isAbsent = value === null || value === undefined || (field?.optional === true && isBlank(inner));
    return isAbsent ? [] : [[name, inner] as const];
  });
  return Object.fromEntries(entries);
}

/** A record with nothing in it, however deep. */
function isBlank(value: unknown): boolean {
  return (
    isPlain(value) && Object.values(value).every((one) => isBlank(one) || (Array.isArray(one) && one.length === 0))
  );
}

function written({ fields, item }: KnownField, value: unknown): unknown {
  if (fields !== null && isPlain(value)) return documentOf(fields, value);
  return item !== null && Array.isArray(value) ? value.map((one) => written(item, one)) : value;
}

/** What is read again is what was written; what was absent, is. */
function readAgain(fields: Fields, document: Given): Given {
  return Object.fromEntries(
    Object.values(fields).map((field) => {
      const value = Object.hasOwn(document, field.name) ? document[field.name] : undefined;
      return [field.name, readValue(field, value)];
    }),
  );
}

function readValue({ fields, item, optional }: KnownField, value: unknown): unknown {
  if (fields !== null && !optional && value === undefined) return readAgain(fields, {});
  if (value === undefined) return item === null ? null : [];
  if (fields !== null && isPlain(value)) return readAgain(fields, value);
  return item !== null && Array.isArray(value) ? value.map((one) => readValue(item, one)) : value;
}

function isPlain(value: unknown): value is Given {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}
