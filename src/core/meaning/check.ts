import { ProblemError, problems } from '../messages/index.js';
import {
  type Constraint,
  type Field,
  type Indices,
  type LookUps,
  type Model,
  noIndices,
  type Path,
  pointerToKey,
  pointerToPath,
} from '../model/index.js';
import { type Judging, judge } from '../operators/index.js';
import type { JudgedBy, Taken } from './judged-by.js';
import { instancesOf, type Judged, judgingOf, pointersOf, valueIn } from './judging.js';
import type { Sent } from './partial.js';

/** A constraint that is broken at some place. */
export interface Broken {
  readonly constraint: Constraint;
  readonly pointer: string;
  /** It is behind another fault of its field: right reported or not. */
  readonly behind?: true;
}

/** Broken constraints, in the order in which they are reported. */
export interface Checked {
  readonly certain: readonly Broken[];
  /** Look-ups that are broken behind another fault of their fields, and patterns of texts that are too long. */
  readonly possible: readonly Broken[];
}

/** A constraint at one place, with all that it mentions readable. */
interface Instance {
  readonly constraint: Constraint;
  readonly indices: Indices;
}

/**
 * Step three: judges every constraint. One is broken only where its predicate is false, never where it is unknown.
 *
 * @param by the constraints that are judged
 * @param sent what a partial update sends; null for a whole record
 */
export function check(judged: Judged, by: JudgedBy, sent: Sent | null): Checked {
  const checking = new Checking(judged, by, sent);
  const fields = by.judged.get(judged.model.fields) ?? [];
  return (
    checking.asWhole() ??
    checking.concluded([
      ...checking.unknownKeys(),
      ...fields.flatMap((taken) => checking.brokenIn(taken)),
      ...by.rules.flatMap((rule) => checking.brokenAt(rule)),
    ])
  );
}

/** A look-up over what has another fault may be broken, or not: another value is looked up once that is fixed. */
function withLookups(judged: Judged, by: JudgedBy, sure: readonly Broken[], lookups: readonly Instance[]): Checked {
  const faulty = new Set(sure.map(({ pointer }) => pointer));
  const behindFault = ({ constraint, indices }: Instance) =>
    subjectsOf(judged, by, constraint, indices).some((pointer) => faulty.has(pointer));
  return {
    certain: [...sure, ...lookups.filter((one) => !behindFault(one)).map(brokenAt)],
    possible: lookups.filter(behindFault).map(brokenAt),
  };
}

/** What of one record is broken, part by part: each part follows from what the record holds of its fields alone. */
export class Checking {
  readonly #judged: Judged;
  readonly #by: JudgedBy;
  readonly #sent: Sent | null;
  #found: Broken[] = [];
  /** How the record is judged outside all lists, as most of it is. */
  readonly #outside: Judging;

  constructor(judged: Judged, by: JudgedBy, sent: Sent | null) {
    this.#judged = judged;
    this.#by = by;
    this.#sent = sent;
    this.#outside = judgingOf(judged);
  }

  /** What is no record, or more than is read, is that and nothing else; null for a record. */
  asWhole(): Checked | null {
    const { decoding } = this.#judged;
    const constraint = decoding.refused.has('') ? this.#by.type : decoding.over.has('') ? this.#by.limits : null;
    return constraint === null ? null : { certain: [{ constraint, pointer: '' }], possible: [] };
  }

  /** Keys of the record that nobody declared. */
  unknownKeys(): readonly Broken[] {
    return this.#collected(() => this.#unknownKeysAt(''));
  }

  /** The rules of a field at the top, and of what is in it. */
  brokenIn({ field, pointer }: Taken): readonly Broken[] {
    return this.#collected(() => this.#walk(field, pointer, noIndices()));
  }

  /** The places at which a rule over several fields is broken. */
  brokenAt(rule: Constraint): readonly Broken[] {
    const broken: Instance[] = [];
    this.#addBroken(rule, broken);
    return broken.map(brokenAt);
  }

  /** With the look-ups, what of all that is broken is certain. */
  concluded(all: readonly Broken[]): Checked {
    // Without the stored rows every look-up is unknown, which is not broken.
    const lookups: Instance[] = [];
    if (this.#judged.store !== null) for (const lookup of this.#by.lookups) this.#addBroken(lookup, lookups);
    if (all.length === 0 && lookups.length === 0) return { certain: all, possible: all };
    const [sure, behind] = [all.filter((one) => one.behind !== true), all.filter((one) => one.behind === true)];
    if (lookups.length === 0) return { certain: sure, possible: behind };
    const { certain, possible } = withLookups(this.#judged, this.#by, sure, lookups);
    return { certain, possible: [...behind, ...possible] };
  }

  #collected(collect: () => void): readonly Broken[] {
    this.#found = [];
    collect();
    return this.#found;
  }

  #unknownKeysAt(pointer: string): void {
    for (const key of this.#judged.decoding.unknownKeys.get(pointer) ?? []) {
      this.#found.push({ constraint: this.#by.keys, pointer: pointer + pointerToKey(key) });
    }
  }

  #inside(fields: Model['fields'], pointer: string, indices: Indices): void {
    for (const { field, pointer: within } of this.#by.judged.get(fields) ?? [])
      this.#walk(field, pointer + within, indices);
  }

  #walk(field: Field, pointer: string, indices: Indices): void {
    const { decoding, canonical } = this.#judged;
    if (decoding.over.has(pointer)) {
      this.#found.push({ constraint: this.#by.limits, pointer });
      return;
    }
    this.#ownFaults(field.path, indices);
    const { fields, item } = field;
    if (fields === null && item === null) return;
    const value = valueIn(canonical.row, field.path, indices);
    if (fields !== null) {
      if (decoding.refused.has(pointer)) return;
      this.#unknownKeysAt(pointer);
      if (value !== null) this.#inside(fields, pointer, indices);
    } else if (item !== null && Array.isArray(value)) {
      for (const index of value.keys()) {
        this.#walk(item, `${pointer}/${index}`, new Map([...indices, [field.path, index]]));
      }
    }
  }

  #ownFaults(owner: Path, indices: Indices): void {
    const constraints = this.#by.facets.get(owner);
    if (constraints === undefined) return;
    const judging = this.#judgingAt(indices);
    let isTooLong = false;
    for (const constraint of constraints) {
      if (!isAsked(this.#judged, this.#by, constraint, indices, this.#sent)) continue;
      if (judge(constraint.predicate, judging) !== false) continue;
      const broken = brokenAt({ constraint, indices });
      // A layer need not read more of a text than it may have.
      this.#found.push(isTooLong && constraint.id.endsWith('.pattern') ? { ...broken, behind: true } : broken);
      isTooLong ||= constraint.id.endsWith('.maxLength');
    }
  }

  #addBroken(rule: Constraint, broken: Instance[]): void {
    for (const indices of everywhere(this.#judged, rule)) {
      if (!isAsked(this.#judged, this.#by, rule, indices, this.#sent)) continue;
      if (judge(rule.predicate, this.#judgingAt(indices)) === false) broken.push({ constraint: rule, indices });
    }
  }

  #judgingAt(indices: Indices): Judging {
    return indices.size === 0 ? this.#outside : judgingOf(this.#judged, indices);
  }
}

/** The server functions to be asked, each with its values: those with no fault and nothing absent. */
export function questions(
  judged: Judged,
  by: JudgedBy,
  sent: Sent | null,
  faulty: ReadonlySet<string>,
  lookUps: LookUps,
): readonly (Broken & { readonly ask: () => unknown })[] {
  return by.lookups.flatMap((constraint) => {
    const { predicate } = constraint;
    if (predicate.op !== 'asks') return [];
    const asked = Object.hasOwn(lookUps, predicate.name) ? lookUps[predicate.name] : undefined;
    if (asked === undefined) {
      const { ruleset, place } = judged.model;
      throw new ProblemError([problems.lookUpMissing(place, ruleset, predicate.name)]);
    }
    return everywhere(judged, constraint).flatMap((indices) => {
      if (!isAsked(judged, by, constraint, indices, sent)) return [];
      const values = predicate.of.map((path) => judgingOf(judged, indices).value(path));
      if (values.includes(null)) return [];
      if (subjectsOf(judged, by, constraint, indices).some((pointer) => faulty.has(pointer))) return [];
      return [{ ...brokenAt({ constraint, indices }), ask: () => asked(...values) }];
    });
  });
}

function brokenAt({ constraint, indices }: Instance): Broken {
  return { constraint, pointer: pointerToPath(constraint.blame, indices) };
}

/** The items that a named rule or a look-up is about; outside all lists one place. */
function everywhere({ canonical }: Judged, { over, owner }: Constraint): readonly Indices[] {
  return instancesOf(canonical.row, over === null ? owner : `${over}[]`);
}

/** The pointers of what a constraint mentions at one place. */
function subjectsOf({ canonical }: Judged, by: JudgedBy, constraint: Constraint, indices: Indices): readonly string[] {
  const plain = by.plain.get(constraint);
  return plain ?? constraint.subjects.flatMap((path) => pointersOf(canonical.row, path, indices));
}

/**
 * True where a constraint is judged at a place. What could not be read is neither given nor missing: nothing but its own
 * type is judged. Of what a partial update sends, a constraint must mention some; where the stored record is not known,
 * all that it mentions must be sent.
 */
function isAsked(judged: Judged, by: JudgedBy, constraint: Constraint, indices: Indices, sent: Sent | null): boolean {
  const { decoding } = judged;
  const { predicate, facet, owner } = constraint;
  if (predicate.op === 'bounded' || predicate.op === 'closed') return false;
  if (predicate.op === 'typed' && decoding.refused.size === 0) return false;
  // Most records can be read, are whole and have no records within: what is asked of others has functions of its own,
  // so that nothing is made for them here.
  if (predicate.op !== 'typed' && (decoding.refused.size > 0 || decoding.over.size > 0)) {
    if (mentionsUnread(judged, subjectsOf(judged, by, constraint, indices))) return false;
  }
  if (sent !== null && !isAmongSent(sent, subjectsOf(judged, by, constraint, indices))) return false;
  // A derived value is required only where all that it is worked out from is there.
  if (predicate.op === 'given' && facet && owner !== constraint.blame && !areThere(judged, constraint, indices))
    return false;
  // What an absent optional record would have in it is not there to be missed.
  return !(facet && owner.includes('.') && isWithinAbsent(judged, owner, indices));
}

function mentionsUnread({ decoding }: Judged, subjects: readonly string[]): boolean {
  return subjects.some((pointer) => isUnder(pointer, decoding.refused) || isUnder(pointer, decoding.over));
}

function isAmongSent(sent: Sent, subjects: readonly string[]): boolean {
  return sent.complete ? subjects.some((pointer) => sent.has(pointer)) : subjects.every((pointer) => sent.has(pointer));
}

function areThere(judged: Judged, { subjects }: Constraint, indices: Indices): boolean {
  const judging = judgingOf(judged, indices);
  return subjects.every((path) => judging.value(path) !== null);
}

function isWithinAbsent({ canonical }: Judged, path: Path, indices: Indices): boolean {
  const above = path.split('.').slice(0, -1);
  return above.some((_, at) => valueIn(canonical.row, above.slice(0, at + 1).join('.'), indices) === null);
}

function isUnder(pointer: string, pointers: ReadonlySet<string>): boolean {
  if (pointers.size === 0) return false;
  for (const one of pointers) if (pointer === one || pointer.startsWith(`${one}/`)) return true;
  return false;
}
