import type { Schema } from '../../core/declare/index.js';
import { decide } from '../../core/meaning/index.js';
import { handlings, handlingsOf, rewritings } from '../../core/mistakes/index.js';
import type { Case, Path, Verdict } from '../../core/model/index.js';
import { measures } from './measures.js';
import { how, type Suspect } from './suspect.js';

type Model = Schema[number];

/** The mistakes that can be made in one rule, or in handling its field: the particular ones first. */
export function* suspectsFor(rule: string, model: Model): Iterable<Suspect> {
  const owner = model.constraints.find(({ id }) => id === rule)?.owner ?? '';
  const isNear = (id: string) => id === rule || model.constraints.some((one) => one.id === id && one.owner === owner);
  const rewritten = Object.entries(rewritings).flatMap(([mistake, rewriting]) =>
    rewriting(model)
      .filter(({ constraint }) => constraint === rule || (owner !== '' && isNear(constraint)))
      .map(({ model: other, words }): Suspect & { readonly drops: boolean } => ({
        words: `${mistake}: ${words}`,
        drops: /dropped$/.test(mistake),
        says: (one) => decide(other, one.input, one.wire, how(one)),
      })),
  );
  yield* rewritten.filter(({ drops }) => !drops);
  for (const { mistake, path } of handlingsOf(model)) {
    const handling = handlings[mistake];
    if (path === null || topOf(path) !== topOf(owner) || handling === undefined) continue;
    yield {
      words: `${mistake}: ${handling.words}`,
      says: (one) => handledBy(one, (check) => handling.wrap(check, path, model), model),
    };
  }
  yield* measures(owner, model);
  yield* unequal(rule, model);
  yield* rewritten.filter(({ drops }) => drops);
}

type Handled = (typeof handlings)[string]['wrap'];

function handledBy(one: Case, wrap: (check: Parameters<Handled>[0]) => ReturnType<Handled>, model: Model): Verdict {
  const check: Parameters<Handled>[0] = (input, { wire }) => {
    const verdict = decide(model, input, wire, how(one));
    return 'accepted' in verdict
      ? { ok: true, value: verdict.accepted }
      : { ok: false, violations: [...verdict.refused, ...verdict.possibly] };
  };
  const { wire, clock, existing, does } = one;
  try {
    // A row is handled as a JSON record is: values by name.
    const as = wire as 'form' | 'json';
    const result = wrap(check)(one.input, { wire: as, clock, existing, partial: does === 'patch' });
    return result.ok ? { accepted: result.value } : { refused: result.violations, possibly: [] };
  } catch {
    return { refused: [], possibly: [] };
  }
}

/** A repeat that is looked for before white space is taken off. */
function* unequal(rule: string, model: Model): Iterable<Suspect> {
  const unique = model.constraints.find(({ id, predicate }) => id === rule && predicate.op === 'unique');
  if (unique === undefined) return;
  const without = { ...model, constraints: model.constraints.filter((one) => one !== unique) };
  const isOuter = ({ input }: Case) =>
    unique.subjects.some((path) => {
      const value =
        typeof input === 'object' && input !== null ? (input as { readonly [name: string]: unknown })[path] : null;
      return typeof value === 'string' && value.trim() !== value;
    });
  yield {
    words: 'compared as it came: white space around it makes it another one',
    says: (one) => decide(isOuter(one) ? without : model, one.input, one.wire, how(one)),
  };
}

/** The field at the top of a record that a path is in. */
export function topOf(path: Path): string {
  return path.split(/[.[]/)[0] ?? path;
}
