import { existsSync, readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { ProblemError, problems } from '../../core/messages/index.js';
import { type Answer, type Case, type Row, writes } from '../../core/model/index.js';
import { madeOf, NoRows } from '../../server/rows.js';
import {
  type JudgedOptions,
  judgedBy,
  type Layer,
  modelOf,
  type OpenLayer,
  rowFor,
  type Surroundings,
} from '../layer.js';
import { documentOf, readAgain } from './document.js';
import { isValid, type SchemaNode } from './evaluate.js';

/** A collection of documents in this process, whose writes a JSON Schema guards. */
export interface DocumentOptions extends JudgedOptions {
  /** The schema of each ruleset's documents; the compiled ones unless told. */
  readonly schemas?: { readonly [ruleset: string]: string };
}

/**
 * A store without a schema of its own: every write is a document, and taken where its validator finds it right. It says no
 * more than that, and looks nothing up: what is unique, and what a reference leads to, is for the program that writes.
 */
export function documentLayer(options: DocumentOptions = {}): Layer {
  const { schemas } = options;
  return {
    kind: 'documents',
    ...judgedBy(options, schemas === undefined),
    target: 'json-schema',
    rulesets: schemas === undefined ? null : Object.keys(schemas),
    can: { store: false, allViolations: false, wires: ['row'], does: writes, on: ['server'], convertsFirst: false },
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
      for (const one of cases) yield [one, await answerTo(one, validatorOf(one.ruleset), schema)] as const;
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
async function answerTo(one: Case, validator: SchemaNode, schema: Surroundings['schema']): Promise<Answer> {
  const row = rowFor(one, schema);
  if (row === null) return { notApplicable: 'the server refuses it and hands on nothing' };
  const model = modelOf(one.ruleset, schema);
  try {
    const document = documentOf(model.fields, { ...row, ...(await madeOf(model, row)) });
    if (!isValid(validator, document))
      return { refused: [{ pointer: null, rule: null, message: 'the document fails validation' }] };
    return { accepted: readAgain(model.fields, document, row) as Row };
  } catch (error) {
    if (error instanceof NoRows) return { notApplicable: error.message };
    return { breakdown: error instanceof Error ? error.message : String(error) };
  }
}
