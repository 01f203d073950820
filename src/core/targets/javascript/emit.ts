import type { Schema } from '../../declare/index.js';
import { itemKeyOf, type KnownField } from '../../kinds/index.js';
import { mostKeys, mostNames, wordsOf } from '../../meaning/index.js';
import { allFields, type Constraint } from '../../model/index.js';
import type { MadeFile } from '../target.js';
import { declaring, type FieldCode, guarded, type Inner, type Place, rawOf, sentFields } from './code.js';
import { listCode, recordCode } from './composites.js';
import { typesText } from './declarations.js';
import { deriveBody, derivedStatements } from './derived.js';
import { joinedName, Names } from './names.js';
import { printJs, printKey, printLiteral, printStatements } from './print.js';
import { questionStatements, ruleStatements, subjectTable } from './rules.js';
import { helpersFor, namesIn } from './runtime/index.js';
import { type Making, scopeOf } from './scope.js';
import { formShape, isFlat, mergeShape } from './shapes.js';
import { topStrangeStatements } from './strange.js';
import { type Js, name, type Statement } from './tree.js';
import { valueCode } from './values.js';

type Model = Schema[number];
const input: Js = name('input');

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

/** The text of a module. */
export function moduleText(model: Model): string {
  const making: Making = { model, names: new Names(), constants: new Map(), variables: new Map() };
  const fields = sentFields(model.fields);
  const derived = Object.values(model.fields).filter(({ derivation }) => derivation !== null);
  const raws = fields.map((field) => ({ field, raw: making.names.take(joinedName('raw', field.name)) }));
  const codes = raws.map(({ field, raw }) => ({ field, code: topCode(field, name(raw), making) }));
  const statements: readonly Statement[] = [
    ...raws.map(({ field, raw }) => ({ constant: raw, is: rawOf(input, field.name) })),
    ...topStrangeStatements(
      making,
      raws.map(({ raw }) => name(raw)),
      model.ignore,
    ),
    ...codes.flatMap(({ field, code }) => fieldStatements(field, code)),
    ...derived.flatMap((field) => derivedStatements(field, making)),
    ...ruleStatements(making),
    ...questionStatements(making),
  ];
  const asks = model.constraints.some(({ predicate }) => predicate.op === 'asks');
  const body = printStatements(statements, 1);
  const text = checkText(model, asks, body, codes);
  const derive =
    derived.length === 0
      ? ''
      : `\n/** The values of the fields that are worked out from a checked record. */\nexport function derive(value) {\n${printStatements(deriveBody(derived, making), 1)}\n}\n`;
  const heads = [
    `const shape = ${printJs(formShape(model.fields))};`,
    `const shapes = ${printJs(mergeShape(model.fields))};`,
    `const subjects = ${printJs(subjectTable(model))};`,
    `const limitsRule = ${printLiteral(`${model.ruleset}.limits`)};`,
    `const limitsMessage = ${printLiteral(facet(model, 'limits').message)};`,
    ...[...making.constants].map(([constant, is]) => `const ${constant} = ${printJs(is)};`),
  ];
  const shim = heads.some((head) => head.includes('__name(')) ? ['const __name = (value) => value;'] : [];
  const code = [...heads, text, derive].join('\n');
  return `${fieldsText(model)}\n\n${[...helpersFor(code), ...shim, heads.join('\n')].join('\n\n')}\n\n${text}${derive}`;
}

const innerCode: Inner = (field, place) => {
  if (field.fields !== null) return recordCode(field, field.fields, place, innerCode);
  return field.item === null ? valueCode(field, place) : listCode(field, field.item, place, innerCode);
};

function topCode(field: KnownField, raw: Js, making: Making): FieldCode {
  const place: Place = {
    scope: scopeOf(making),
    raw,
    pointer: [`/${field.name}`],
    atOnce: true,
  };
  return innerCode(field, place);
}

function fieldStatements(field: KnownField, code: FieldCode): readonly Statement[] {
  const statements = [...code.read, ...code.fills, ...code.judge];
  const isEverywhere = field.enforcedIn.includes('client') && field.enforcedIn.includes('server');
  if (isEverywhere) return declaring(code.declares, statements);
  // Where nobody reads it, it is absent to the rules.
  const ahead = code.declares.map((variable): Statement => ({ variable, is: { literal: null } }));
  return [...ahead, ...guarded(field.enforcedIn, statements)];
}

function facet(model: Model, called: string): Constraint {
  const found = model.constraints.find(({ id }) => id === `${model.ruleset}.${called}`);
  if (found === undefined) throw new Error(`no constraint ${model.ruleset}.${called}`);
  return found;
}

interface Coded {
  readonly field: KnownField;
  readonly code: FieldCode;
}

function checkText(model: Model, asks: boolean, body: string, codes: readonly Coded[]): string {
  const told = (called: string, pointer = "''") => {
    const { id, message } = facet(model, called);
    return `fail(null, ${pointer}, ${printLiteral(id)}, ${printLiteral(message)})`;
  };
  const everywhere = codes
    .filter(({ field }) => isBoth(field))
    .map(({ field, code }) => [field.name, code.value] as const);
  const elsewhere = codes.filter(({ field }) => !isBoth(field));
  const value = printJs({ object: everywhere });
  const sides = elsewhere.map(({ field, code }) => {
    const when = field.enforcedIn.includes('client') ? 'client' : '!client';
    return `\n  if (${when}) value.${field.name} = ${printJs(code.value)};`;
  });
  const used = namesIn(`${body}${sides.join('')}`);
  const clocked = used.has('today') || used.has('moment');
  const clock = clocked
    ? `\n  const moment = momentOf(how.clock);\n  const today = dayIn(moment, how.clock?.zone ?? ${printLiteral(model.zone)});`
    : '';
  const client = used.has('client') ? "\n  const client = how.on === 'client';" : '';
  const merge = allFields(model).some((field) => field.item !== null && itemKeyOf(field) !== null)
    ? 'mergeKeyed'
    : 'merge';
  const concealed = Object.values(model.fields).flatMap((field) => (field.concealed ? [field.name] : []));
  const keeping =
    concealed.length === 0 ? '' : `\n    if (form) input = withoutBlank(input, ${printLiteral(concealed)});`;
  const read = isFlat(model) ? 'readFlatForm' : 'readForm';
  return `${head(asks)} {
  if (!isRecord(input)) return refused(${told('type')}, how.messages);
  const form = how.wire === 'form';${client}${clock}
  let violations = null;
  let sent;
  let known = false;
  let strange = null;
  const count = keysIn(input);
  if (count > (form ? ${mostNames} : ${mostKeys(model.fields)})) return refused(${told('limits')}, how.messages);
  input = ownKeys(input);
  if (form) {
    strange = [];
    input = ${read}(input, shape, strange, how.partial === true && how.shown !== undefined ? how.shown : []);
  } else if (how.partial === true) strange = Object.keys(input);
  if (how.partial === true) {
    sent = new Map();
    known = how.existing !== undefined && how.existing !== null;${keeping}
    input = ${merge}(input, how.existing, shapes, '', sent, form, known);
  }
${body}
  if (violations !== null && sent !== undefined) violations = toldOf(violations, sent, known, subjects);
  if (violations !== null) return refused(violations, how.messages);
  const value = ${value};${sides.join('')}
  return { ok: true, value: sent !== undefined && !known ? sentOnly(value, sent, '') : value };
}
${asks ? askingText : ''}`;
}

function isBoth({ enforcedIn }: KnownField): boolean {
  return enforcedIn.includes('client') && enforcedIn.includes('server');
}

const summary = `/**
 * Checks one record: \`{ ok: true, value }\` with the canonical value, or \`{ ok: false, violations }\` with all that is
 * broken. \`wire\` is 'json' (as parsed), or 'form' (texts, or lists of texts where a name came several times).
 */`;

function head(asks: boolean): string {
  if (!asks) return `${summary}\nexport function check(input, how = plain)`;
  return `${summary}
export function check(input, how = plain) {
  return examine(input, how, []);
}

function examine(input, how, asked)`;
}

const askingText = `
/** The same, and then what only the server can ask, on fields with no other fault. */
export async function checkAsync(input, how = plain) {
  const asked = [];
  return answered(examine(input, how, asked), asked, how.messages);
}
`;

function fieldsText(model: Model): string {
  const lines = Object.entries(wordsOf(model.fields)).map(([path, { label, hint, optional, concealed, choices }]) => {
    const more = {
      ...(hint === null ? {} : { hint }),
      ...(concealed === undefined ? {} : { concealed }),
      ...(choices === undefined ? {} : { choices }),
    };
    return `  ${printKey(path)}: ${printLiteral({ label, required: !optional, ...more })},`;
  });
  return `/** What a page needs to know of the fields. */\nexport const fields = {\n${lines.join('\n')}\n};`;
}
