import { type Schema, targetsOf } from '../declare/index.js';
import { type KnownField, valueField } from '../kinds/index.js';
import { allFields, type Constraint, type Entry, fieldAt, type Path, type Pattern } from '../model/index.js';
import { isLookup } from '../operators/index.js';
import { type Languages, Reasoner } from '../reason/index.js';
import { type TargetName, targets } from '../targets/index.js';
import type { FindingCode, Severity } from './catalogue.js';
import type { Example, Finding, RuleSaid } from './finding.js';

/** What a finding is looked for in: one ruleset, those that it lives with, and what may be asked of it. */
export interface Subject {
  readonly model: Schema[number];
  readonly schema: Schema;
  readonly languages: Languages;
  readonly reasoner: Reasoner;
  /** What some constraints became in some targets: worked out when it is first asked for. */
  readonly ledger: Ledger;
}

/** A ruleset with what may be asked of it. */
export function subjectOf(model: Schema[number], schema: Schema, languages: Languages): Subject {
  return {
    model,
    schema,
    languages,
    reasoner: new Reasoner(model, languages),
    ledger: new Ledger(around(model, schema)),
  };
}

/** A ruleset and those that it refers to, through others perhaps: all that its tables need to know of. */
function around(model: Schema[number], schema: Schema): Schema {
  const reached = new Set([model.ruleset]);
  for (const name of reached) {
    const found = schema.find(({ ruleset }) => ruleset === name);
    for (const target of found === undefined ? [] : targetsOf(found)) reached.add(target);
  }
  return schema.filter(({ ruleset }) => reached.has(ruleset));
}

/** The ledger of a schema, line by line: a line of it takes longer than most questions need. */
export class Ledger {
  readonly #schema: Schema;
  readonly #entries = new Map<string, readonly Entry[]>();

  constructor(schema: Schema) {
    this.#schema = schema;
  }

  entries(constraints: readonly Constraint[], names: readonly TargetName[]): readonly Entry[] {
    return names.flatMap((name) => {
      const missing = new Set(constraints.filter(({ id }) => !this.#entries.has(`${name} ${id}`)));
      const made = missing.size === 0 ? [] : targets[name].ledger(this.#schema, (one) => missing.has(one));
      for (const { id } of missing)
        this.#entries.set(
          `${name} ${id}`,
          made.filter(({ constraint }) => constraint === id),
        );
      return constraints.flatMap(({ id }) => this.#entries.get(`${name} ${id}`) ?? []);
    });
  }
}

/** The last part of a facet's id, or a rule's own name. */
export function nameOf({ id }: Pick<Constraint, 'id'>): string {
  return id.slice(id.lastIndexOf('.') + 1);
}

/** What a person wrote: an option of a field, or a named rule; not what every field of a kind has. */
export function isDeclared(constraint: Constraint, { model }: Subject): boolean {
  if (!constraint.facet) return true;
  if (constraint.owner === '') return false;
  const { facets } = fieldAt(model, constraint.owner);
  const name = nameOf(constraint);
  return Object.hasOwn(facets, name) && name !== 'precision' && name !== 'scale';
}

/** What a constraint says, in a few words: `max 40`, `pattern /[A-Z]{2}/`; of a named rule its label. */
export function saying(constraint: Constraint, { model }: Subject): string {
  if (!constraint.facet) return `rule ${nameOf(constraint)}`;
  const name = nameOf(constraint);
  const field = constraint.owner === '' ? null : valueField(fieldAt(model, constraint.owner) as KnownField);
  const value = field !== null && Object.hasOwn(field.facets, name) ? field.facets[name] : undefined;
  if (name === 'pattern' && typeof value === 'object') return `pattern ${patternText(value as unknown as Pattern)}`;
  if (name === 'canonical') return `canonical form (${canonicalWords(field)})`;
  if (name === 'enumeration') return 'one of its choices';
  if (name === 'lines') return 'a single line';
  if (name === 'required') return 'required';
  return value === undefined ? name : `${name} ${typeof value === 'string' ? value : JSON.stringify(value)}`;
}

/** A pattern as it is written in a declaration; flag u goes without saying. */
export function patternText({ source, flags }: Pattern): string {
  return `/${source}/${flags.replace(/^u/, '')}`;
}

function canonicalWords(field: KnownField | null): string {
  const facets = field?.facets ?? {};
  const words = [
    ...(facets.trim === false ? [] : ['trimmed']),
    ...(facets.collapse === true ? ['inner space collapsed'] : []),
    ...(typeof facets.case === 'string' ? [`${facets.case} case`] : []),
    ...(facets.unicode === 'NFC' ? ['NFC'] : []),
  ];
  return words.join(', ');
}

/** Constraints as a finding lists them. */
export function saidOf(constraints: readonly Constraint[], subject: Subject): readonly RuleSaid[] {
  return constraints.map((one) => ({ id: one.id, place: one.place, says: saying(one, subject) }));
}

/** The constraints that can be judged on a record alone. */
export function judgedAlone({ model }: Subject): readonly Constraint[] {
  return model.constraints.filter(({ predicate }) => !isLookup(predicate));
}

/** The fields with a value of their own that somebody sends, and that are no copy of another ruleset's key. */
export function ownFields({ model }: Subject): readonly KnownField[] {
  return (allFields(model) as readonly KnownField[]).filter(
    ({ fields, item, key, derivation }) => fields === null && item === null && key === null && derivation === null,
  );
}

/** A finding about constraints; its place is that of the last of them unless another is given. */
export function findingOf(
  subject: Subject,
  said: {
    readonly code: FindingCode;
    readonly severity: Severity;
    readonly field?: Path;
    readonly about: Constraint | KnownField;
    readonly rules: readonly Constraint[];
    readonly message: string;
    readonly proof: string;
    readonly examples?: readonly Example[];
    readonly mend: string;
  },
): Finding {
  const { about } = said;
  const field = said.field ?? ('path' in about ? about.path : about.facet ? about.owner : about.blame);
  return {
    code: said.code,
    severity: said.severity,
    ruleset: subject.model.ruleset,
    field,
    place: about.place,
    message: said.message,
    rules: saidOf(said.rules, subject),
    proof: said.proof,
    examples: said.examples ?? [],
    mend: said.mend,
  };
}

/** What several constraints say, as a sentence has them; with their fields, where they are of more than one. */
export function sayings(constraints: readonly Constraint[], subject: Subject): string {
  const owners = new Set(constraints.filter(({ facet }) => facet).map(({ owner }) => owner));
  return listed(
    constraints.map((one) => {
      const says = saying(one, subject);
      return one.facet && owners.size > 1 ? `${says} of ${one.owner}` : says;
    }),
  );
}

/** The names of constraints, those of facets with their field. */
export function namesOf(constraints: readonly Constraint[]): string {
  return listed(constraints.map((one) => (one.facet ? `${nameOf(one)} of ${one.owner}` : nameOf(one))));
}

/** Names in a row, as a sentence has them. */
export function listed(names: readonly string[]): string {
  if (names.length < 2) return names.join('');
  return `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
}
