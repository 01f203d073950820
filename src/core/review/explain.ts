import { casesFor } from '../cases/index.js';
import type { Schema } from '../declare/index.js';
import type { KnownField } from '../kinds/index.js';
import { problemsOf } from '../messages/index.js';
import { type Case, type Constraint, fieldAt, type Path, type Value } from '../model/index.js';
import { Languages } from '../reason/index.js';
import { ledgerOf, type TargetName, targetNames, targets } from '../targets/index.js';
import type { Example, RuleSaid } from './finding.js';
import { saidOf, subjectOf } from './subject.js';

/** One rule of a field, with values that it just takes and just refuses. */
export interface RuleExplained extends RuleSaid {
  readonly message: string;
  readonly inside: readonly Example[];
  readonly outside: readonly Example[];
}

/** What one layer has of a field's rules, and where it differs from them. */
export interface LayerExplained {
  readonly target: TargetName;
  /** In the target's own words, the type of the value first. */
  readonly has: readonly string[];
  readonly differs: readonly {
    readonly rule: string;
    readonly is: string;
    readonly why: string;
    readonly shown: Value | undefined;
  }[];
}

/** A field's whole rule, in each layer side by side. */
export interface Explanation {
  readonly ruleset: string;
  readonly field: Path;
  readonly label: string;
  readonly kind: string;
  readonly optional: boolean;
  readonly rules: readonly RuleExplained[];
  readonly layers: readonly LayerExplained[];
}

/** So many values are shown on each side of a rule. */
const MOST_SHOWN = 2;

/**
 * Everything that is asked of a field: its own facets and the named rules that mention it. Values are shown in a valid
 * record; where none was found there are none.
 *
 * @throws ProblemError `no_first_row` where no first record can be stored
 */
export function explainField(path: Path, model: Schema[number], schema: Schema): Explanation {
  const field = fieldAt(model, path) as KnownField;
  const subject = subjectOf(model, schema, new Languages());
  const own = model.constraints.filter(
    ({ facet, owner, subjects }) =>
      (facet && (owner === path || owner === `${path}[]`)) || (!facet && subjects.includes(path)),
  );
  const cases = casesOrNone(model, schema);
  const said = saidOf(own, subject);
  return {
    ruleset: model.ruleset,
    field: path,
    label: field.label,
    kind: field.kind,
    optional: field.optional,
    rules: own.map((rule, at) => ({
      id: rule.id,
      place: rule.place,
      says: said[at]?.says ?? rule.id,
      message: rule.message,
      ...sidesOf(rule, path, cases),
    })),
    layers: layersOf(field, own, schema),
  };
}

function casesOrNone(model: Schema[number], schema: Schema): readonly Case[] {
  try {
    return casesFor(model, schema).filter(({ does }) => does === 'insert');
  } catch (error) {
    if (problemsOf(error)?.some(({ code }) => code === 'no_base') !== true) throw error;
    return [];
  }
}

function sidesOf(rule: Constraint, path: Path, cases: readonly Case[]): Pick<RuleExplained, 'inside' | 'outside'> {
  const about = cases.filter(({ constraint }) => constraint === rule.id);
  // JSON shows values as they are; of the other wires only what is not the same in their spelling.
  const ordered = [...about].sort((a, b) => strangeness(a, rule, path) - strangeness(b, rule, path));
  const side = (isOutside: boolean): readonly Example[] => {
    const shown = new Map<string, Example>();
    for (const { input, reason, expected } of ordered) {
      const value = inputAt(input, rule, path);
      const spelled = JSON.stringify(value).replaceAll('"', '');
      if (isOutside === 'refused' in expected && !shown.has(spelled)) shown.set(spelled, { words: reason, value });
    }
    return [...shown.values()].slice(0, MOST_SHOWN);
  };
  return { inside: side(false), outside: side(true) };
}

/** Plain values come first, and JSON before the other wires. */
function strangeness({ input, wire }: Case, rule: Constraint, path: Path): number {
  const value = inputAt(input, rule, path);
  return (rule.facet && typeof value === 'object' && value !== null ? 2 : 0) + Number(wire !== 'json');
}

/** Of an input, the field; for a rule over several fields, all that it is about. */
function inputAt(input: unknown, { facet, subjects }: Constraint, path: Path): Value {
  if (typeof input !== 'object' || input === null) return (input ?? null) as Value;
  const record = input as { readonly [name: string]: Value };
  const [top = ''] = path.split(/[.[]/);
  if (facet) return record[top] ?? null;
  const tops = [...new Set(subjects.map((subject) => subject.split(/[.[]/)[0] ?? ''))];
  return Object.fromEntries(tops.map((name) => [name, record[name] ?? null]));
}

function layersOf(field: KnownField, own: readonly Constraint[], schema: Schema): readonly LayerExplained[] {
  const asked = new Set(own);
  const entries = ledgerOf(schema, targetNames, (one) => asked.has(one));
  return targetNames.map((target) => {
    const here = entries.filter((entry) => entry.target === target);
    const typeFirst = [...here].sort((a, b) => Number(isType(b.constraint)) - Number(isType(a.constraint)));
    const whole = targets[target].whole?.(field) ?? null;
    return {
      target,
      has: whole === null ? [...new Set(typeFirst.flatMap(({ becomes }) => becomes ?? []))] : [whole],
      differs: here.flatMap(({ constraint, fidelity }) =>
        fidelity.is === 'exact'
          ? []
          : [{ rule: constraint, is: fidelity.is, why: fidelity.why, shown: fidelity.shown }],
      ),
    };
  });
}

function isType(id: string): boolean {
  return id.endsWith('.type');
}
