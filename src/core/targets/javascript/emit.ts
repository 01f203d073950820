import type { Schema } from '../../declare/index.js';
import { choicesOf, type KnownField } from '../../kinds/index.js';
import { type Constraint, fieldAt, pointerToPath } from '../../model/index.js';
import { isLookup } from '../../operators/index.js';
import type { MadeFile } from '../target.js';
import { variableOf } from './names.js';
import { type Context, predicateJs } from './predicates.js';
import { printJs, printKey, printLiteral, printStatements } from './print.js';
import { helpersFor } from './runtime.js';
import { all, binary, call, type Js, literal, name, nothing, type Statement } from './tree.js';
import { moduleType, readEntry } from './types.js';

type Model = Schema[number];
const unread: Js = { name: 'undefined' };

/** One standalone module a ruleset, with its types beside it: no imports, no eval. */
export function emitModules(schema: Schema): readonly MadeFile[] {
  return schema.flatMap((model): readonly MadeFile[] => {
    const made = { comment: ['// ', ''], from: [model.ruleset] } as const;
    return [
      { ...made, path: `javascript/${model.ruleset}.js`, text: moduleText(model) },
      { ...made, path: `javascript/${model.ruleset}.d.ts`, text: typesText(model) },
    ];
  });
}

function moduleText(model: Model): string {
  const constants = new Map<string, Js>();
  const body = printStatements(checkBody(model, constants), 1);
  const heads = [...constants].map(([constant, is]) => `const ${constant} = ${printJs(is)};`);
  const names = Object.keys(model.fields);
  return `${fieldsText(model)}

${[...helpersFor(body), `const declared = new Set(${printLiteral(names)});`, ...heads].join('\n\n')}

/**
 * Checks one record: \`{ ok: true, value }\` with the canonical value, or \`{ ok: false, violations }\` with all that is
 * broken. \`wire\` is 'json' (as parsed), or 'form' (texts, or lists of texts where a name came several times).
 */
export function check(input, { wire = 'json' } = {}) {
  const form = wire === 'form';
  // Of each field: undefined is refused, null is absent, anything else is the canonical value.
  const violations = [];
  const fail = (pointer, rule, message) => violations.push({ pointer, rule, message });
${body}
  if (violations.length > 0) return { ok: false, violations };
  return { ok: true, value: { ${names.map((field) => valueEntry(field)).join(', ')} } };
}
`;
}

function valueEntry(field: string): string {
  const variable = variableOf(field);
  return variable === field ? field : `${printKey(field)}: ${variable}`;
}

function checkBody(model: Model, constants: Map<string, Js>): readonly Statement[] {
  const context = (constraint: Constraint, given: readonly string[]): Context => ({
    name: constraint.id.split('.').slice(1).map(capitalised).join(''),
    given: new Set(given),
    constant: (constant, is) => {
      const twin = [...constants].find(([, other]) => printJs(other) === printJs(is));
      if (twin === undefined) constants.set(constant, is);
      return twin?.[0] ?? constant;
    },
  });
  const whole = model.constraints.filter(({ blame }) => blame === '');
  const rules = model.constraints.filter(({ facet, predicate }) => !facet && !isLookup(predicate));
  return [
    ...whole.flatMap(wholeStatements),
    ...Object.values(model.fields).flatMap((field) => fieldStatements(model, field, context)),
    ...rules.flatMap((rule) => ruleStatements(rule, context(rule, []))),
  ];
}

/** That the input is a record, and that it has no strange keys. */
function wholeStatements({ predicate, id, message }: Constraint): readonly Statement[] {
  if (predicate.op === 'typed') {
    const refusal = `{ ok: false, violations: [{ pointer: '', rule: ${printLiteral(id)}, message: ${printLiteral(message)} }] }`;
    return [
      { text: `if (typeof input !== 'object' || input === null || Array.isArray(input)) {\n  return ${refusal};\n}` },
    ];
  }
  const told = `fail(pointerTo(key), ${printLiteral(id)}, ${printLiteral(message)})`;
  return [{ text: `for (const key of Object.keys(input)) {\n  if (!declared.has(key)) ${told};\n}` }];
}

function fieldStatements(
  model: Model,
  field: KnownField,
  contextOf: (constraint: Constraint, given: readonly string[]) => Context,
): readonly Statement[] {
  const variable = name(variableOf(field.path));
  const own = model.constraints.filter(({ facet, blame }) => facet && blame === field.path);
  const required = own.filter(({ predicate }) => predicate.op === 'given').map(failure);
  const typed = own.filter(({ predicate }) => predicate.op === 'typed').map(failure);
  const rest = own.flatMap((constraint): readonly Statement[] => {
    const truths =
      constraint.predicate.op === 'given'
        ? null
        : predicateJs(constraint.predicate, contextOf(constraint, [field.path]));
    return truths === null ? [] : [{ when: truths.isFalse, does: [failure(constraint)] }];
  });
  const absent = binary(variable, '===', nothing);
  const present: readonly Statement[] =
    required.length > 0
      ? [{ when: absent, does: required, ...(rest.length > 0 ? { otherwise: rest } : {}) }]
      : rest.length > 0
        ? [{ when: binary(variable, '!==', nothing), does: rest }]
        : [];
  return [
    { constant: printJs(variable), is: moduleType(field).read(field, readEntry(field)) },
    { when: binary(variable, '===', unread), does: typed, ...(present.length > 0 ? { otherwise: present } : {}) },
  ];
}

/** A rule is judged only where all that it mentions could be read. */
function ruleStatements(rule: Constraint, context: Context): readonly Statement[] {
  const truths = predicateJs(rule.predicate, context);
  if (truths === null) return [];
  const read = rule.subjects.map((path) => binary(name(variableOf(path)), '!==', unread));
  return [{ when: all(...read, truths.isFalse), does: [failure(rule)] }];
}

function failure({ id, blame, message }: Constraint): Statement {
  return { run: call('fail', literal(pointerToPath(blame)), literal(id), literal(message)) };
}

function capitalised(part: string, index: number): string {
  return index === 0 ? part : part.charAt(0).toUpperCase() + part.slice(1);
}

function fieldsText(model: Model): string {
  const lines = Object.values(model.fields).map((field) => {
    const { label, optional } = field;
    const choices = choicesOf(field).length > 0 ? { choices: choicesOf(field) } : {};
    return `  ${printKey(field.path)}: ${printLiteral({ label, required: !optional, ...choices })},`;
  });
  return `/** What a page needs to know of the fields. */\nexport const fields = {\n${lines.join('\n')}\n};`;
}

function typesText(model: Model): string {
  const type = `${model.ruleset.charAt(0).toUpperCase()}${model.ruleset.slice(1)}`;
  const lines = Object.keys(model.fields).map((path) => {
    const field = fieldAt(model, path);
    return `  readonly ${printKey(path)}: ${moduleType(field).typeText(field)}${field.optional ? ' | null' : ''};`;
  });
  const meta = Object.values(model.fields).map((field) => {
    const choices = choicesOf(field).length > 0 ? '; readonly choices: readonly (readonly [string, string])[]' : '';
    return `  readonly ${printKey(field.path)}: { readonly label: string; readonly required: boolean${choices} };`;
  });
  return `export interface Violation {
  /** An RFC 6901 JSON Pointer to the field. */
  readonly pointer: string;
  readonly rule: string;
  readonly message: string;
}

/** A canonical record: every field is there, absent is null. */
export interface ${type} {
${lines.join('\n')}
}

export type Checked =
  | { readonly ok: true; readonly value: ${type} }
  | { readonly ok: false; readonly violations: readonly Violation[] };

export declare const fields: {
${meta.join('\n')}
};

export declare function check(input: unknown, how?: { readonly wire?: 'json' | 'form' }): Checked;
`;
}
