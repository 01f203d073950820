import type { Schema } from '../../core/declare/index.js';
import { encode, read } from '../../core/meaning/index.js';
import { ProblemError, problems } from '../../core/messages/index.js';
import type { Answer, Case, Row } from '../../core/model/index.js';
import { addressOf } from '../addresses.js';
import { overExisting } from '../existing-keys.js';
import { assertFieldNames, TAKEN_NAME, type Translation, translations } from '../field-names.js';
import { judgedBy, type Layer, modelOf, type OpenLayer, type Surroundings } from '../layer.js';
import { isOfStoredRow } from '../stored-already.js';
import { answerIn, recordIn } from './answers.js';
import { claimsOf, missesTarget } from './claims.js';
import { inParallel } from './in-parallel.js';
import { type HttpOptions, type Send, usual } from './options.js';
import { Sender } from './sender.js';
import { FOREIGN, type Made, Stored } from './stored.js';

export type { FaultPointers, HttpAnswer, HttpOptions, RecordAddresses, Send } from './options.js';

/**
 * An HTTP interface that takes records. What a case needs is made there first and removed afterwards, as far as stored
 * records have an address; a timeout, a lost connection or a status that is neither success nor refusal is a breakdown.
 */
export function httpLayer(options: HttpOptions): Layer {
  const store = options.cleanUp !== undefined || Object.values(options.records).some(({ record }) => record);
  return {
    kind: 'http',
    ...judgedBy(options, false),
    target: 'javascript',
    rulesets: Object.keys(options.records),
    can: {
      store,
      allViolations: true,
      wires: options.wires ?? ['json'],
      does: options.does ?? ['insert'],
      on: ['server'],
      convertsFirst: false,
      ownClock: true,
    },
    open: (surroundings) => open(options, surroundings),
  };
}

/** @throws ProblemError `layer_unreachable` where an address is none, or nobody answers there */
async function open(options: HttpOptions, { schema }: Surroundings): Promise<OpenLayer> {
  const unreachable = (why: string) => new ProblemError([problems.layerUnreachable(null, 'http', why)]);
  for (const { create, record = create, all = create } of Object.values(options.records))
    for (const address of [create, record, all])
      if (!/^https?:$/.test(urlOf(addressOf(address))?.protocol ?? ''))
        throw unreachable(`${address} is no address of HTTP`);
  assertFieldNames(schema, options.names, 'http');
  const sender = new Sender(options);
  for (const origin of sender.origins) {
    const answer = await sender.send('GET', origin);
    if ('unanswered' in answer) throw unreachable(`${origin}: ${answer.unanswered}`);
  }
  const asking = new Asking(options, schema, sender);
  const layer = { answer: (cases: readonly Case[]) => asking.answer(cases), close: () => asking.close() };
  return overExisting(layer, schema, options.existing, 'http');
}

function urlOf(address: string): URL | null {
  return URL.canParse(address) ? new URL(address) : null;
}

const RESIDUE = 'refuses it, and stores a record all the same';

/** A server that is gone for so many requests in a row is asked no more. */
const MOST_UNHEARD = 20;
/** So many records are created whose address no answer contains. */
const MOST_WITHOUT_ADDRESS = 3;
/** How often it is tried to remove what was made, and after which pause, in milliseconds. */
const TRIES = 10;
const PAUSE = 500;

/** Asks an interface about cases. */
class Asking {
  readonly #options: HttpOptions;
  readonly #schema: Schema;
  readonly #sender: Sender;
  readonly #stored: Stored;
  readonly #translation: (ruleset: string) => Translation;
  /** Records of cases that are being answered: removed even where the run is stopped between. */
  readonly #open = new Set<string>();
  /** By ruleset, how many records were created with an address, and without one. */
  readonly #addresses = new Map<string, { readonly found: number; readonly missing: number }>();
  /** So many requests in a row came to nobody. */
  #unheard = 0;

  constructor(options: HttpOptions, schema: Schema, sender: Sender) {
    this.#options = options;
    this.#schema = schema;
    this.#sender = sender;
    this.#translation = translations(schema, options.names);
    this.#stored = new Stored(schema, options, sender, this.#translation);
  }

  /**
   * Cases with stored records of their own kind, or whose records are listed, are asked one by one, when nobody else writes;
   * those about a record that must not be there before all others, whose records it may be.
   */
  async *answer(cases: readonly Case[]): AsyncIterable<readonly [Case, Answer]> {
    const { atOnce = usual.atOnce, setUp, cleanUp } = this.#options;
    const meets = ({ before, ruleset, existing }: Case) =>
      existing !== null || before.some((one) => one.ruleset === ruleset);
    const isAlone = (one: Case) =>
      setUp !== undefined ||
      cleanUp !== undefined ||
      meets(one) ||
      this.#options.records[one.ruleset]?.all !== undefined;
    const ask = async (one: Case) => {
      const answer = await this.#ask(one);
      this.#note(answer);
      return [one, answer] as const;
    };
    for (const model of this.#schema) {
      const own = cases.filter(({ ruleset }) => ruleset === model.ruleset);
      const missing = own.filter((one) => missesTarget(one, model));
      for (const one of missing) {
        yield await ask(one);
        await this.#stored.clear();
      }
      const rest = own.filter((one) => !missing.includes(one));
      const together = rest.filter((one) => !isAlone(one));
      yield* inParallel(together, atOnce, (one) => claimsOf(one, model), ask);
      yield* inParallel(rest.filter(isAlone), 1, () => [], ask);
      // A record that others referred to would be in the way of the next ruleset's own.
      await this.#stored.clear();
    }
  }

  /**
   * Removes all that it made; a server that is being started anew is waited for.
   *
   * @throws ProblemError `layer_unreachable` with the addresses of what had to stay
   */
  async close(): Promise<void> {
    for (let tried = 0; tried < TRIES; tried += 1) {
      if (tried > 0) await new Promise((resolve) => setTimeout(resolve, PAUSE));
      for (const address of this.#open) if (await this.#stored.remove(address)) this.#open.delete(address);
      await this.#stored.clear();
      if (this.#remaining.length === 0) return;
    }
    throw new ProblemError([
      problems.layerUnreachable(
        null,
        'http',
        `nobody answers there any more; left behind: ${this.#remaining.join(', ')}`,
      ),
    ]);
  }

  get #remaining(): readonly string[] {
    return [...this.#open, ...this.#stored.left];
  }

  /** @throws ProblemError `layer_unreachable` where nobody has answered for a while */
  #note(answer: Answer): void {
    const isRefused = 'breakdown' in answer && /ECONNREFUSED/.test(answer.breakdown);
    this.#unheard = isRefused ? this.#unheard + 1 : 0;
    if (this.#unheard >= MOST_UNHEARD)
      throw new ProblemError([problems.layerUnreachable(null, 'http', 'nobody answers there any more: ECONNREFUSED')]);
  }

  /** A record without an address can't be removed: after a few, and none with one, no more are created. */
  #noteAddress(ruleset: string, address: string | null): void {
    const template = this.#options.records[ruleset]?.record;
    if (template === undefined) return;
    const { found, missing } = this.#addresses.get(ruleset) ?? { found: 0, missing: 0 };
    const counts = address === null ? { found, missing: missing + 1 } : { found: found + 1, missing };
    this.#addresses.set(ruleset, counts);
    if (counts.found > 0 || counts.missing < MOST_WITHOUT_ADDRESS) return;
    const why = `${counts.missing} records of ${ruleset} were created and remain there, as no answer contains what ${template} needs`;
    throw new ProblemError([problems.layerUnfit(null, 'http', why)]);
  }

  async #ask(one: Case): Promise<Answer> {
    const made: string[] = [];
    const keep = ({ address }: Made) => {
      this.#noteAddress(one.ruleset, address);
      if (address === null) return;
      made.push(address);
      this.#open.add(address);
    };
    try {
      await this.#options.setUp?.(one, this.#request);
      const why = await this.#prepare(one, keep);
      return why === null ? await this.#answerTo(one, keep) : { notApplicable: why };
    } catch (error) {
      if (error instanceof ProblemError) throw error;
      return { breakdown: error instanceof Error ? `${error.name}: ${error.message}` : String(error) };
    } finally {
      for (const address of made.reverse()) if (await this.#stored.remove(address)) this.#open.delete(address);
      await this.#options.cleanUp?.(one, this.#request);
    }
  }

  /** Stores the rows that are there before; null, or why that can't be. */
  async #prepare(one: Case, keep: (made: Made) => void): Promise<string | null> {
    for (const { ruleset, row } of one.before) {
      const isOwn = ruleset === one.ruleset;
      const made = isOwn ? await this.#stored.make(ruleset, row) : await this.#stored.shared(ruleset, row);
      if (typeof made === 'string') return `the ${ruleset} before it can't be stored: ${made}`;
      if (made !== null) keep(made);
    }
    return null;
  }

  async #answerTo(one: Case, keep: (made: Made) => void): Promise<Answer> {
    const { ruleset, existing, wire, input } = one;
    if (wire === 'form' && (typeof input !== 'object' || input === null))
      return { notApplicable: 'a form sends entries' };
    const body = this.#translation(ruleset).toWire(input, wire === 'form' ? 'form' : 'json');
    if (body === null && input !== null) return { notApplicable: TAKEN_NAME };
    return existing === null ? this.#answerToNew(one, body, keep) : this.#answerToChange(one, existing, body, keep);
  }

  /** Sends a record; what is refused is blamed at the declared names. */
  async #send(one: Case, method: string, address: string, body: unknown) {
    const over = one.wire === 'form' ? 'form' : 'json';
    const answer = answerIn(await this.#sender.send(method, address, body, over), this.#options);
    return 'refused' in answer ? { refused: this.#translation(one.ruleset).blamed(answer.refused) } : answer;
  }

  async #answerToNew(one: Case, body: unknown, keep: (made: Made) => void): Promise<Answer> {
    const { ruleset, wire, input } = one;
    const { create = '', method = 'POST' } = this.#options.records[ruleset] ?? {};
    const model = modelOf(ruleset, this.#schema);
    const sent = typeof input === 'object' && input !== null && !Array.isArray(input) ? input : {};
    const row = read(model, sent as Row, wire === 'form' ? 'form' : 'json');
    const isMet = one.before.some((stored) => stored.ruleset === ruleset);
    if (!isMet && (await this.#stored.isTaken(ruleset, row))) return { notApplicable: FOREIGN };
    const listed = this.#stored.addressOf(ruleset, row) === null ? await this.#stored.listed(ruleset) : null;
    const answer = await this.#send(one, method, addressOf(create), body);
    if ('refused' in answer && isOfStoredRow(answer.refused, one, row, model)) return { notApplicable: FOREIGN };
    if (!('taken' in answer))
      return { ...answer, ...(await (listed === null ? this.#left(one, row, keep) : this.#grown(one, listed, keep))) };
    const made = this.#stored.madeBy(ruleset, answer.taken, row);
    keep(made);
    return { accepted: await this.#kept(ruleset, made.address, made.record) };
  }

  async #answerToChange(one: Case, existing: Row, body: unknown, keep: (made: Made) => void): Promise<Answer> {
    const { ruleset, does } = one;
    const made = await this.#stored.make(ruleset, existing);
    if (typeof made === 'string') return { notApplicable: `the record to be changed can't be stored: ${made}` };
    if (made.address === null) return { notApplicable: 'a stored record has no address' };
    keep(made);
    const answer = await this.#send(one, does === 'patch' ? 'PATCH' : 'PUT', made.address, body);
    if (!('taken' in answer)) return { ...answer, ...(await this.#changed(one, made.address, existing)) };
    const after = this.#stored.madeBy(ruleset, answer.taken, existing);
    if (after.address !== made.address) keep(after);
    return { accepted: await this.#kept(ruleset, after.address ?? made.address, after.record) };
  }

  /** The stored record: read again where it has an address, else as the answer tells it; null where neither says. */
  async #kept(ruleset: string, address: string | null, told: Row | null): Promise<Row | null> {
    if (address === null) return told;
    const found = await this.#stored.read(ruleset, address);
    return found === null ? {} : Object.keys(found).length === 0 ? told : found;
  }

  /** What a refused new record left: nothing may be where it would be. */
  async #left({ ruleset, before }: Case, row: Row, keep: (made: Made) => void) {
    const address = this.#stored.addressOf(ruleset, row);
    const isTaken = before.some(
      (one) => one.ruleset === ruleset && this.#stored.addressOf(ruleset, one.row) === address,
    );
    if (address === null || isTaken || (await this.#stored.read(ruleset, address)) === null) return {};
    keep({ address, record: null });
    return { residue: RESIDUE };
  }

  /** What a refused new record left where the store makes its key: nothing more may be listed than before. */
  async #grown({ ruleset }: Case, before: readonly unknown[], keep: (made: Made) => void) {
    const known = new Set(before.map((entry) => JSON.stringify(entry)));
    const after = (await this.#stored.listed(ruleset)) ?? [];
    const more = after.filter((entry) => !known.has(JSON.stringify(entry)));
    if (more.length === 0) return {};
    for (const entry of more) keep({ address: this.#stored.addressIn(ruleset, entry), record: null });
    return { residue: RESIDUE };
  }

  /** What a refused update left: the stored record is as it was. */
  async #changed({ ruleset }: Case, address: string, existing: Row) {
    const found = await this.#stored.read(ruleset, address);
    const model = modelOf(ruleset, this.#schema);
    const before = recordIn(encode(model, existing, 'json'), model) ?? {};
    const other = Object.keys(before).find(
      (name) => Object.hasOwn(found ?? {}, name) && JSON.stringify(found?.[name]) !== JSON.stringify(before[name]),
    );
    return other === undefined ? {} : { residue: `refuses it, and changes ${other} all the same` };
  }

  readonly #request: Send = async (method, address, body) => {
    const answer = await this.#sender.send(method, addressOf(address), body);
    if ('unanswered' in answer) throw new Error(answer.unanswered);
    return answer;
  };
}
