import { isScalar, type KnownField } from '../kinds/index.js';
import { type Constraint, fieldAt, listsOf, type Path } from '../model/index.js';
import { type EngineName, tableTargets, targetNames, targets } from '../targets/index.js';
import type { FindingCode } from './catalogue.js';
import type { Finding } from './finding.js';
import { findingOf, isDeclared, listed, type Subject } from './subject.js';

type Gap = { readonly constraint: Constraint; readonly why: string };

/** Rules that some layer does not hold, those with the same reason together, each with what to do. */
export function layerGaps(subject: Subject): readonly Finding[] {
  return [...notStored(subject), ...clientBlind(subject), ...leftOut(subject)];
}

/** What says how something comes in is nothing that a table could be asked. */
function isOfTables({ owner, facet, predicate }: Constraint): boolean {
  return !(facet && owner === '') && !['asks', 'typed', 'canonical'].includes(predicate.op);
}

function notStored(subject: Subject): readonly Finding[] {
  const engines = Object.keys(tableTargets) as readonly EngineName[];
  const asked = subject.model.constraints.filter((one) => isOfTables(one) && !isAlwaysHeld(one, subject));
  const entries = subject.ledger.entries(asked, engines);
  const gaps = asked.flatMap((constraint): readonly Gap[] => {
    const own = entries.filter((entry) => entry.constraint === constraint.id);
    const whys = own.map(({ fidelity }) => (fidelity.is === 'absent' ? fidelity.why : null));
    const [why] = whys;
    return why === undefined || why === null || whys.includes(null) ? [] : [{ constraint, why }];
  });
  return grouped(gaps).map((group) =>
    gapFinding(subject, group, {
      code: 'not_stored',
      message: `No database holds ${named(group)}.`,
      mend: mendOfStored(group, subject),
    }),
  );
}

/** What is said of one value outside lists is held by some engine, a pattern at least where an automaton holds it. */
export function isAlwaysHeld(
  { facet, owner, predicate, enforcedIn }: Constraint,
  { model, languages }: Subject,
): boolean {
  if (
    !facet ||
    owner === '' ||
    owner.includes('[]') ||
    !enforcedIn.includes('database') ||
    !isScalar(fieldAt(model, owner))
  )
    return false;
  return predicate.op !== 'matches' || typeof languages.partsOf(predicate.pattern) !== 'string';
}

function mendOfStored(group: readonly Gap[], subject: Subject): string {
  const { model } = subject;
  const lists = group.flatMap(({ constraint }) => constraint.subjects.flatMap((path) => [path, ...listsOf(path)]));
  const list = lists.find((path) => {
    const field = fieldAt(model, path);
    return (
      field.item !== null && field.facets.keptAs !== 'json' && group.every((gap) => isHeldAsJson(gap, path, subject))
    );
  });
  const write = 'Let every write go through the server (insertRecord, updateRecord), which checks it';
  return list === undefined
    ? `${write}.`
    : `${write}, or keep ${list} as JSON (keptAs: 'json'), which PostgreSQL checks.`;
}

/** True where PostgreSQL would hold a rule, were a list kept as JSON. */
function isHeldAsJson({ constraint }: Gap, list: Path, { model, schema }: Subject): boolean {
  const kept = (field: KnownField): KnownField => ({
    ...field,
    facets: field.path === list ? { ...field.facets, keptAs: 'json' } : field.facets,
    fields: field.fields === null ? null : mapped(field.fields),
    item: field.item === null ? null : kept(field.item),
  });
  const mapped = (fields: Subject['model']['fields']) =>
    Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, kept(field)]));
  const changed = { ...model, fields: mapped(model.fields) };
  const other = schema.map((one) => (one === model ? changed : one));
  const entries = targets.postgresql.ledger(other, (one) => one.id === constraint.id);
  return entries.every(({ fidelity }) => fidelity.is === 'exact');
}

function clientBlind(subject: Subject): readonly Finding[] {
  const gaps = subject.model.constraints.flatMap((constraint): readonly Gap[] => {
    const { predicate, enforcedIn, owner } = constraint;
    if (owner !== '' && isStoredOnly(constraint)) return [];
    if (predicate.op === 'unique' || predicate.op === 'refersTo')
      return [{ constraint, why: 'a page does not know the stored records' }];
    if (predicate.op === 'asks') return [{ constraint, why: 'the server asks somebody else' }];
    return enforcedIn.includes('client') ? [] : [{ constraint, why: `it is enforced in ${listed(enforcedIn)} only` }];
  });
  return grouped(gaps).map((group) =>
    gapFinding(subject, group, {
      code: 'client_blind',
      message: `The page can't tell ${named(group)}.`,
      mend: 'Show the message of the answer at its field: a bound form does so by itself.',
    }),
  );
}

function isStoredOnly({ enforcedIn }: Constraint): boolean {
  return enforcedIn.every((enforcer) => enforcer === 'database');
}

function leftOut(subject: Subject): readonly Finding[] {
  const asked = subject.model.constraints.filter((one) => isDeclared(one, subject) && isLength(one, subject));
  const gaps = asked.flatMap((constraint): readonly Gap[] =>
    subject.ledger.entries([constraint], targetNames).flatMap(({ fidelity }) => {
      return fidelity.is === 'absent' && fidelity.would === 'stricter' ? [{ constraint, why: fidelity.why }] : [];
    }),
  );
  return grouped(gaps).map((group) =>
    gapFinding(subject, group, {
      code: 'attribute_left_out',
      message: `The made form has no attribute for ${named(group)}: it would be stricter than the rule.`,
      mend: 'Bind the form with echo-rule/browser, which says it as a person types; do not add the attribute by hand.',
    }),
  );
}

/** Only of many lines lengths can't be said by a pattern, and the attributes for them would be stricter. */
function isLength({ predicate, owner }: Constraint, { model }: Subject): boolean {
  const isCompared = predicate.op === 'compare' && predicate.left.term === 'length';
  return isCompared && owner !== '' && fieldAt(model, owner).facets.lines === 'many';
}

function grouped(gaps: readonly Gap[]): readonly (readonly Gap[])[] {
  const groups = new Map<string, Gap[]>();
  for (const gap of gaps) groups.set(gap.why, [...(groups.get(gap.why) ?? []), gap]);
  return [...groups.values()];
}

function named(group: readonly Gap[]): string {
  const [first, ...more] = group.map(({ constraint }) => constraint.id);
  return more.length === 0 ? (first ?? '') : `${group.length} rules`;
}

function gapFinding(
  subject: Subject,
  group: readonly Gap[],
  said: {
    readonly code: FindingCode;
    readonly message: string;
    readonly mend: string;
  },
): Finding {
  const [first] = group;
  if (first === undefined) throw new Error('a gap without a rule');
  const field: Path = group.length === 1 ? first.constraint.blame : '';
  return findingOf(subject, {
    ...said,
    severity: 'note',
    field,
    about: first.constraint,
    rules: group.map(({ constraint }) => constraint),
    proof: `${first.why.charAt(0).toUpperCase()}${first.why.slice(1)}.`,
  });
}
