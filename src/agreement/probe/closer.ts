import type { Case, Entry } from '../../core/model/index.js';
import { type Layer, modelOf, type OpenLayer, type Surroundings } from '../../layers/layer.js';
import { type Difference, fidelitiesOf } from '../judge.js';
import { judgeAnswer } from '../judge-answer.js';
import { judgedAgain, whyNotFor } from '../run.js';
import { type Cause, causeOf, type Mismatch, sizeOf } from '../summary.js';
import { smaller } from './smaller.js';

/** A case that differed is asked so many times in all. */
const TRIES = 3;
/** An input is made smaller at most so many times. */
const MOST_ROUNDS = 12;
/** So many smaller inputs of one cause are asked at once. */
const MOST_ASKED = 16;

/** A cause after its case was asked again: the shortest input that shows it, or how often it did not. */
export interface Closer {
  readonly shortest: Difference;
  readonly flaky: Mismatch['flaky'];
}

/**
 * Asks a layer again about what it answers otherwise than expected: whether it always does, and with how little.
 *
 * @throws what the layer's `open` throws
 */
export async function lookCloser(
  layer: Layer,
  causes: readonly Cause[],
  surroundings: Surroundings,
  ledger: readonly Entry[],
  stop: AbortSignal | null = null,
): Promise<ReadonlyMap<Cause, Closer>> {
  const found = new Map<Cause, Closer>();
  if (causes.length === 0) return found;
  const opened = await layer.open(surroundings);
  try {
    const looking = new Looking(layer, opened, surroundings, ledger, stop);
    const flaky = await looking.again(causes);
    const steady = new Map<Cause, Difference>();
    for (const cause of causes) {
      const own = flaky.get(cause) ?? null;
      if (own === null && cause.shortest.kind !== 'residue') steady.set(cause, cause.shortest);
      found.set(cause, { shortest: cause.shortest, flaky: own });
    }
    for (const [cause, shortest] of await looking.shrunk(steady)) found.set(cause, { shortest, flaky: null });
  } finally {
    await opened.close();
  }
  return found;
}

/** The rules that a case breaks: a smaller one breaks no other, or it would show two things at once. */
function brokenBy({ expected }: Case): readonly string[] {
  return 'refused' in expected ? [...expected.refused, ...expected.possibly].map(({ rule }) => rule) : [];
}

class Looking {
  readonly #layer: Layer;
  readonly #opened: OpenLayer;
  readonly #surroundings: Surroundings;
  readonly #stop: AbortSignal | null;
  readonly #fidelities: ReturnType<typeof fidelitiesOf>;

  constructor(
    layer: Layer,
    opened: OpenLayer,
    surroundings: Surroundings,
    ledger: readonly Entry[],
    stop: AbortSignal | null,
  ) {
    this.#stop = stop;
    this.#layer = layer;
    this.#opened = opened;
    this.#surroundings = surroundings;
    this.#fidelities = fidelitiesOf(layer, ledger);
  }

  /** How often each cause's case differed, of those of which some tries agreed. */
  async again(causes: readonly Cause[]): Promise<ReadonlyMap<Cause, NonNullable<Mismatch['flaky']>>> {
    const differed = new Map(causes.map((cause) => [cause, 1]));
    for (let tried = 1; tried < TRIES; tried += 1) {
      const cases = causes.map(({ shortest }) => this.#named(shortest.case, `again/${tried}`));
      const differences = await this.#ask(cases, causes[0]?.shortest.layer ?? '');
      causes.forEach((cause, at) => {
        const one = cases[at];
        if (one !== undefined && differences.has(one.id)) differed.set(cause, (differed.get(cause) ?? 0) + 1);
      });
    }
    const some = [...differed].filter(([, count]) => count < TRIES);
    return new Map(some.map(([cause, count]) => [cause, { tries: TRIES, differed: count }]));
  }

  /** The smallest input found of each cause: as long as some smaller one shows the same. */
  async shrunk(from: ReadonlyMap<Cause, Difference>): Promise<ReadonlyMap<Cause, Difference>> {
    const shortest = new Map(from);
    let open = [...from.keys()];
    for (let round = 0; round < MOST_ROUNDS && open.length > 0; round += 1) {
      const asked = open.map(
        (cause) => [cause, this.#smallerThan(shortest.get(cause) ?? cause.shortest, round)] as const,
      );
      const layer = open[0]?.shortest.layer ?? '';
      const answers = await this.#ask(
        asked.flatMap(([, cases]) => cases),
        layer,
      );
      open = asked.flatMap(([cause, cases]) => {
        const now = shortest.get(cause) ?? cause.shortest;
        const same = cases.flatMap(({ id }) => answers.get(id) ?? []).filter((one) => causeOf(one) === cause.key);
        const [best] = same.filter((one) => this.#isLess(one, now)).sort((a, b) => (this.#isLess(a, b) ? -1 : 1));
        if (best === undefined) return [];
        shortest.set(cause, best);
        return [cause];
      });
    }
    return new Map([...shortest].map(([cause, one]) => [cause, this.#asShown(one, cause.shortest)]));
  }

  /** Under its first name; what the first was about is said of a shorter one as of what it was made from. */
  #asShown(one: Difference, first: Difference): Difference {
    const { id, reason } = first.case;
    const { schema } = this.#surroundings;
    const isShorter = sizeOf(one, schema) < sizeOf(first, schema);
    return { ...one, case: { ...one.case, id, reason: isShorter ? `${reason}; made shorter` : reason } };
  }

  #isLess(a: Difference, b: Difference): boolean {
    const { schema } = this.#surroundings;
    const whole = ({ case: { input } }: Difference) => JSON.stringify(input)?.length ?? 0;
    const apart = sizeOf(a, schema) - sizeOf(b, schema);
    return apart < 0 || (apart === 0 && whole(a) < whole(b));
  }

  #smallerThan({ case: one, rule }: Difference, round: number): readonly Case[] {
    const { schema } = this.#surroundings;
    const model = modelOf(one.ruleset, schema);
    const subjects = model.constraints.find(({ id }) => id === rule)?.subjects ?? [];
    const optional = Object.values(model.fields).flatMap((field) => (field.optional ? [field.name] : []));
    return smaller(one, subjects, optional)
      .slice(0, MOST_ASKED)
      .map((input, at) => judgedAgain(this.#named({ ...one, input }, `less/${round}/${at}`), schema))
      .filter((smallerOne) => brokenBy(smallerOne).every((rule) => brokenBy(one).includes(rule)));
  }

  #named(one: Case, as: string): Case {
    return { ...one, id: `${one.id}/${as}` };
  }

  /** The differences among the answers, by case. */
  async #ask(cases: readonly Case[], name: string): Promise<ReadonlyMap<string, Difference>> {
    const { schema } = this.#surroundings;
    const wanted = cases.filter((one) => whyNotFor(this.#layer, one, schema) === null);
    const found = new Map<string, Difference>();
    for await (const [one, answer] of this.#opened.answer(wanted)) {
      this.#stop?.throwIfAborted();
      const model = modelOf(one.ruleset, schema);
      const judged = judgeAnswer({ case: one, layer: name, answer }, this.#layer, this.#fidelities, model);
      if (typeof judged !== 'string' && 'known' in judged && !judged.known) found.set(one.id, judged);
    }
    return found;
  }
}
