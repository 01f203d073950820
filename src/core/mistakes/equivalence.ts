import type { Schema } from '../declare/index.js';
import { isTextual, type KnownField, targetOf, valueField } from '../kinds/index.js';
import {
  allFields,
  type Constraint,
  type Entry,
  fieldAt,
  fieldTerm,
  type Path,
  type Pattern,
  type Predicate,
} from '../model/index.js';
import { isLookup } from '../operators/index.js';
import {
  anyLength,
  automatonOfPattern,
  intersection,
  Languages,
  NotRegular,
  Reasoner,
  shortestLength,
  type Wish,
} from '../reason/index.js';
import { type EngineName, type TargetName, tableTargets } from '../targets/index.js';
import { changesOf, isApartNow, movedIn } from './changes.js';
import type { Likeness, Mutant } from './mistake.js';
import { isSourceOfRequired, valued } from './places.js';
import { isOverSame, likenessOfConditions } from './unique-conditions.js';

type Model = Schema[number];

/** What slugs are made of. */
const SLUG: Pattern = { source: '[0-9a-z\\-]*', flags: 'u' };

/** The rules beside a changed one: those that the layer holds, and all of them. */
interface Others {
  readonly held: readonly Constraint[];
  readonly all: readonly Constraint[];
  /** The look-ups that may be reported instead, where a layer reports one broken rule only. */
  readonly lookUps: readonly Constraint[];
}

/** Decides whether mutants of one ruleset differ from it at all. */
export class Equivalence {
  readonly #model: Model;
  readonly #schema: Schema;
  readonly #reasoner: Reasoner;
  readonly #ledger: readonly Entry[];
  readonly #crowded: ReadonlySet<string>;

  /** @param crowded the rulesets of which no more rows were found that records could refer to */
  constructor(model: Model, schema: Schema, ledger: readonly Entry[], crowded: ReadonlySet<string> = new Set()) {
    this.#crowded = crowded;
    this.#model = model;
    this.#schema = schema;
    this.#reasoner = new Reasoner(model, new Languages());
    this.#ledger = ledger;
  }

  /**
   * @param tellsAll the layer tells every broken rule: then a rule is missed even where another one is broken too
   * @param named it tells which rule is broken, and not only where
   */
  of(mutant: Mutant, layer: { readonly tellsAll: boolean; readonly named: boolean }): Likeness {
    const likeness = this.#of(mutant, layer);
    if (likeness.is !== 'different') return likeness;
    const to = this.#targetIn(mutant.constraint);
    return to !== null && this.#crowded.has(to)
      ? { is: 'undecided', why: `no more rows of ${to} were found that it could refer to` }
      : likeness;
  }

  /** The ruleset that the field of a constraint refers to, or the entries of its list; null where it is no reference. */
  #targetIn(id: string): string | null {
    const owner = this.#model.constraints.find((one) => one.id === id)?.owner ?? '';
    if (owner === '') return null;
    const field = fieldAt(this.#model, owner) as KnownField;
    return targetOf((field.item ?? field) as KnownField)?.to ?? null;
  }

  #of(mutant: Mutant, { tellsAll, named }: { readonly tellsAll: boolean; readonly named: boolean }): Likeness {
    const { plant, layer } = mutant;
    if ('handling' in plant) return { is: 'undecided', why: 'what a server does around a check is not reasoned about' };
    const implied = Object.hasOwn(tableTargets, layer)
      ? this.#impliedInTables(mutant.constraint, layer as EngineName)
      : null;
    if (implied !== null) return implied;
    if ('text' in plant) return this.#ofTexts(plant.matters, mutant.constraint);
    if (mutant.mistake === 'reference action changed') return this.#ofDeletion(mutant.constraint);
    const moved = movedIn(this.#model, plant.model);
    if (moved !== undefined) return this.#ofNeverBroken(moved);
    const isOneLine = mutant.constraint.endsWith('.lines') && this.#isCollapsed(mutant.constraint);
    if (isOneLine && !Object.hasOwn(tableTargets, layer))
      return { is: 'equivalent', why: 'its line ends are spaces by then' };
    const changes = changesOf(this.#model, plant.model);
    if (changes === null) return this.#ofCanonical(mutant.constraint, plant.model);
    for (const [before, after] of changes) {
      const others = this.#model.constraints.filter((one) => one.id !== before.id && !isLookup(one.predicate));
      const beside = tellsAll ? (named ? [] : others.filter((one) => one.blame === before.blame)) : others;
      // What is let through is seen where no other rule refuses it; what is refused, where the record is right by all rules.
      const forms = Object.hasOwn(tableTargets, layer) ? [] : this.#letterCases();
      const held = [...beside.filter((one) => layer !== 'store' && this.#isHeld(one, layer)), ...forms];
      const all = [...beside, ...forms];
      const lookUps = tellsAll
        ? []
        : this.#model.constraints.filter((one) => one.id !== before.id && isLookup(one.predicate));
      const likeness = this.#ofPredicates(before, after, { held, all, lookUps });
      if (likeness.is === 'equivalent') continue;
      // A type such as that of UUIDs refuses most of what is none, and reads some of it as one: which, is not known.
      const altering = beside.filter((one) => this.#isAltered(one, layer));
      const isBehind =
        likeness.is === 'different' &&
        altering.length > 0 &&
        this.#ofPredicates(before, after, { held: [...held, ...altering], all, lookUps }).is === 'equivalent';
      return isBehind ? { is: 'undecided', why: "what its column's type makes of it is not reasoned about" } : likeness;
    }
    return { is: 'equivalent', why: 'no record breaks one and keeps the other' };
  }

  /** What is checked is in canonical form by then: letters of one case alone. */
  #letterCases(): readonly Constraint[] {
    return this.#model.constraints.flatMap((one): readonly Constraint[] => {
      if (one.predicate.op !== 'canonical') return [];
      const field = fieldAt(this.#model, one.owner) as KnownField;
      const { case: kept } = valueField(field).facets;
      if (kept !== 'lower' && kept !== 'upper') return [];
      const pattern: Pattern = { source: kept === 'lower' ? '[^A-Z]*' : '[^a-z]*', flags: 'u' };
      return [{ ...one, predicate: { op: 'matches', of: fieldTerm(field.path), pattern } }];
    });
  }

  /** What happens when a target is deleted makes no difference, where no record refers to one. */
  #ofDeletion(id: string): Likeness {
    const rule = this.#model.constraints.find((one) => one.id === id);
    if (rule?.predicate.op !== 'refersTo' || rule.predicate.of.includes('[]'))
      return { is: 'undecided', why: 'what is in lists is not reasoned about' };
    const own = this.#model.constraints.filter(({ predicate }) => !isLookup(predicate));
    const found = this.#reasoner.decide(own, { predicate: { op: 'given', of: rule.predicate.of }, is: 'true' });
    if (found.is === 'impossible') return { is: 'equivalent', why: 'no record has the reference' };
    return found.is === 'possible' ? { is: 'different' } : found;
  }

  /** Where a message stands makes no difference, if the rule is never broken. */
  #ofNeverBroken(moved: Constraint): Likeness {
    if (isLookup(moved.predicate)) return { is: 'different' };
    const found = this.#reasoner.decide([], { breaks: moved });
    if (found.is === 'undecided') return { is: 'undecided', why: found.why };
    return found.is === 'possible' ? { is: 'different' } : { is: 'equivalent', why: 'no record breaks the rule' };
  }

  #isCollapsed(id: string): boolean {
    const field = this.#fieldOf(id);
    return field !== undefined && valueField(field).facets.collapse === true;
  }

  /** A key is never NULL; a type has its digits; and what refers to a stored row has the form of that row's key. */
  #impliedInTables(id: string, engine: EngineName): Likeness | null {
    const { ruleset, key } = this.#model;
    if (key !== null && id === `${ruleset}.${key}.required`) return { is: 'equivalent', why: 'a key is never NULL' };
    const field = this.#fieldOf(id);
    if (field !== undefined && id.endsWith('.required') && isSourceOfRequired(field, this.#model))
      return { is: 'equivalent', why: 'what is worked out from it is never NULL' };
    const type = field === undefined ? null : tableTargets[engine].columnType(field, this.#model, this.#schema);
    if (/\.(?:precision|scale)$/.test(id) && /^(?:decimal|numeric)\(/.test(type ?? ''))
      return { is: 'equivalent', why: "its column's type holds so many digits" };
    const isForm = field !== undefined && !/\.(?:required|reference|unique)$/.test(id) && targetOf(field) !== null;
    return isForm ? { is: 'equivalent', why: 'what it refers to has such a key, and is there' } : null;
  }

  #fieldOf(id: string): KnownField | undefined {
    return valued(this.#model).find(({ path }) => id.startsWith(`${this.#model.ruleset}.${path}.`));
  }

  #isHeld({ id }: Constraint, target: TargetName): boolean {
    const entry = this.#ledger.find((one) => one.constraint === id && one.target === target);
    return entry === undefined || entry.fidelity.is === 'exact';
  }

  #isAltered({ id }: Constraint, target: Mutant['layer']): boolean {
    const entry = this.#ledger.find((one) => one.constraint === id && one.target === target);
    return entry?.fidelity.is === 'altering';
  }

  /** No record tells the two predicates apart, among those that keep the others. */
  #ofPredicates(before: Constraint, after: Predicate | null, others: Others): Likeness {
    if (isLookup(before.predicate)) return this.#ofLookUp(before.predicate, after, others);
    if (before.predicate.op === 'canonical' || before.predicate.op === 'typed')
      return this.#ofCanonical(before.id, null);
    const wishes: readonly (readonly [Wish, readonly Constraint[]])[] =
      after === null
        ? [[{ breaks: before }, others.held]]
        : (['true', 'unknown'] as const).flatMap((kept): readonly (readonly [Wish, readonly Constraint[]])[] => [
            [{ together: [{ breaks: before }, { predicate: after, is: kept }] }, others.held],
            [
              {
                together: [
                  { predicate: before.predicate, is: kept },
                  { predicate: after, is: 'false' },
                ],
              },
              others.all,
            ],
          ]);
    for (const [wish, kept] of wishes) {
      if (this.#reasoner.isImpossible(kept, wish)) continue;
      const found = this.#reasoner.decide(kept, wish);
      if (found.is === 'impossible') continue;
      if (found.is === 'undecided') return { is: 'undecided', why: found.why };
      return isApartNow(before.predicate, after, found.example.row, this.#model)
        ? { is: 'different' }
        : {
            is: 'undecided',
            why: 'the record that was found distinguishes them at another time than that of the cases',
          };
    }
    return {
      is: 'equivalent',
      why: after === null ? 'what it refuses, others refuse too' : 'no record tells them apart',
    };
  }

  /** Folding makes no difference where no text has letters of both cases to be folded. */
  #ofLookUp(before: Predicate, after: Predicate | null, beside: Others): Likeness {
    const undecided: Likeness = { is: 'undecided', why: 'look-ups are not reasoned about' };
    if (before.op !== 'unique' || after?.op !== 'unique' || before.of.join() !== after.of.join()) return undecided;
    if (JSON.stringify(before.among) !== JSON.stringify(after.among)) {
      const likeness = likenessOfConditions(before, after, this.#model, this.#reasoner);
      const isBehind =
        likeness.is === 'different' && beside.lookUps.some((one) => isOverSame(one, before, this.#model));
      return isBehind ? { is: 'undecided', why: 'another rule refuses most repeats of the same fields' } : likeness;
    }
    const letters: Pattern = { source: `[\\s\\S]*[A-Za-z][\\s\\S]*`, flags: 'u' };
    const others = before.of.filter((path) => {
      const field = valued(this.#model).find((one) => one.path === path);
      return field === undefined || valueField(field).facets.case == null;
    });
    const fields = valued(this.#model).filter(({ path }) => others.includes(path));
    return this.#noneFits(fields, letters);
  }

  /**
   * No text that is not canonical, or is damaged, fits the patterns of the field; of a model that asks for less, none that
   * this one lets in.
   */
  #ofCanonical(id: string, after: Model | null): Likeness {
    const field = this.#fieldOf(id);
    if (field === undefined) return { is: 'undecided', why: 'it is about no field' };
    const { facets } = valueField(field);
    const other = after === null ? null : valued(after).find(({ path }) => path === field.path);
    const now = other === undefined || other === null ? null : valueField(other).facets;
    const odd: string[] = [];
    const asks = (facet: string) => now === null || now[facet] !== facets[facet];
    if (asks('trim')) odd.push('\\s[\\s\\S]*', '[\\s\\S]*\\s', '');
    if (now === null) odd.push('[\\s\\S]*[\\0\\ufffd][\\s\\S]*');
    if (facets.case === 'lower' && asks('case')) odd.push('[\\s\\S]*[A-Z][\\s\\S]*');
    if (facets.case === 'upper' && asks('case')) odd.push('[\\s\\S]*[a-z][\\s\\S]*');
    if (facets.collapse === true && asks('collapse')) odd.push('[\\s\\S]*\\s[\\s\\S]*');
    if (facets.unicode != null && asks('unicode')) odd.push('[\\s\\S]*[^\\0-\\x7f][\\s\\S]*');
    if (odd.length === 0) return { is: 'undecided', why: 'what differs is no text' };
    return this.#noneFits([field], { source: odd.join('|'), flags: 'u' });
  }

  #ofTexts(matters: Pattern | null, id: string): Likeness {
    if (matters === null) return { is: 'undecided', why: 'what the code does otherwise is not reasoned about' };
    const [field] = allFields(this.#model)
      .filter(({ path }) => id.startsWith(`${this.#model.ruleset}.${path}.`))
      .sort((a, b) => b.path.length - a.path.length);
    return this.#noneFits(field === undefined ? valued(this.#model).filter(isTextual) : [field], matters);
  }

  #noneFits(fields: readonly KnownField[], texts: Pattern): Likeness {
    for (const { path } of fields) {
      const apart = this.#isApart(path, texts);
      if (apart === null) return { is: 'undecided', why: `the pattern of ${path} is not regular` };
      if (!apart) return { is: 'undecided', why: `${path} may hold such a text` };
    }
    return { is: 'equivalent', why: 'no field may hold a text that it takes otherwise' };
  }

  /** True where the field's own patterns hold none of the texts; null where that is not known. */
  #isApart(path: Path, texts: Pattern): boolean | null {
    const patterns = this.#model.constraints.flatMap(({ owner, predicate }) =>
      owner === path && predicate.op === 'matches' ? [predicate.pattern] : [],
    );
    const isSlug = fieldAt(this.#model, path).derivation?.term === 'slug';
    try {
      const both = [texts, ...patterns, ...(isSlug ? [SLUG] : [])]
        .map((pattern) => automatonOfPattern(pattern))
        .reduce(intersection);
      return shortestLength(both, anyLength) === 'none';
    } catch (error) {
      if (error instanceof NotRegular) return null;
      throw error;
    }
  }
}
