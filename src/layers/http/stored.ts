import type { Schema } from '../../core/declare/index.js';
import { encode } from '../../core/meaning/index.js';
import { type Row, valueAt } from '../../core/model/index.js';
import { addressOf } from '../addresses.js';
import type { Translation } from '../field-names.js';
import { modelOf } from '../layer.js';
import { answerIn, at, recordIn } from './answers.js';
import type { HttpAnswer, HttpOptions } from './options.js';
import type { Sender } from './sender.js';

/** Why a record is not made where one is already that no case knows. */
export const FOREIGN = 'a record that no case knows of is there already';

/** A record that was made there: where it is, and what is in it. */
export interface Made {
  readonly address: string | null;
  readonly record: Row | null;
}

/** The records at a layer's addresses: makes those that cases need, reads them, and removes all that it made. */
export class Stored {
  readonly #schema: Schema;
  readonly #options: HttpOptions;
  readonly #sender: Sender;
  readonly #translation: (ruleset: string) => Translation;
  /** Rows that several cases refer to, each made once; what could not be made, with the reason. */
  readonly #shared = new Map<string, Promise<string | null>>();
  readonly #addresses: string[] = [];

  constructor(schema: Schema, options: HttpOptions, sender: Sender, translation: (ruleset: string) => Translation) {
    this.#translation = translation;
    this.#schema = schema;
    this.#options = options;
    this.#sender = sender;
  }

  /** Makes a row that cases refer to, unless it is there already. Null, or why it can't be made. */
  shared(ruleset: string, row: Row): Promise<string | null> {
    const key = JSON.stringify([ruleset, row]);
    const known = this.#shared.get(key) ?? this.#makeShared(ruleset, row);
    this.#shared.set(key, known);
    return known;
  }

  async #makeShared(ruleset: string, row: Row): Promise<string | null> {
    const made = await this.make(ruleset, row);
    if (typeof made !== 'string') {
      if (made.address !== null) this.#addresses.push(made.address);
      return null;
    }
    // It is there from before: then it serves as well, and stays.
    return made === FOREIGN ? null : made;
  }

  /** Makes a record; a text says why it can't be made. */
  async make(ruleset: string, row: Row): Promise<Made | string> {
    const { create, method = 'POST' } = this.#options.records[ruleset] ?? {};
    if (create === undefined) return `the layer has no address for ${ruleset}`;
    if (await this.isTaken(ruleset, row)) return FOREIGN;
    const body = this.#translation(ruleset).toWire(encode(modelOf(ruleset, this.#schema), row, 'json'), 'json');
    const answer = answerIn(await this.#sender.send(method, addressOf(create), body), this.#options);
    if ('taken' in answer) return this.madeBy(ruleset, answer.taken, row);
    return 'breakdown' in answer ? answer.breakdown : 'it is refused';
  }

  /** What a request made: where its answer says, or where a record with such values is. */
  madeBy(ruleset: string, { headers, body }: HttpAnswer, sent: Row): Made {
    const model = modelOf(ruleset, this.#schema);
    const whole = this.#recordAt(body, ruleset);
    const record = recordIn(whole, model);
    const own = this.addressOf(ruleset, { ...keysOf(whole), ...sent, ...record });
    const location = own === null ? null : resolved(headers.location, own);
    const isThere = location !== null && this.#sender.isOwn(location) && isLike(location, own);
    return { address: isThere ? location : own, record };
  }

  /** The record in an answer, its fields as they are declared. */
  #recordAt(body: unknown, ruleset: string): unknown {
    return this.#translation(ruleset).fromJson(at(body, this.#options.stored ?? ''));
  }

  /** The address of a record; null where the layer has none, or the record lacks what is in it. */
  addressOf(ruleset: string, row: Row): string | null {
    const template = this.#options.records[ruleset]?.record;
    if (template === undefined) return null;
    let isWhole = true;
    const address = addressOf(template).replace(/\{([^{}]+)\}/g, (_, path: string) => {
      const value = valueAt(row, path);
      const isText = !/\p{Surrogate}/u.test(String(value)) && typeof value !== 'object';
      if (!isText) isWhole = false;
      return isText ? encodeURIComponent(String(value)) : '';
    });
    return isWhole ? address : null;
  }

  /** True where a record is at the place of another already: it is nobody's here, and must be neither changed nor removed. */
  async isTaken(ruleset: string, row: Row): Promise<boolean> {
    const address = this.addressOf(ruleset, row);
    return address !== null && (await this.read(ruleset, address)) !== null;
  }

  /** The record at an address; null where there is none, and {} where nothing of it can be read. */
  async read(ruleset: string, address: string): Promise<Row | null> {
    const answer = await this.#sender.send('GET', address);
    if ('unanswered' in answer || answer.status < 200 || answer.status > 299) return null;
    return recordIn(this.#recordAt(answer.body, ruleset), modelOf(ruleset, this.#schema)) ?? {};
  }

  /** All stored records as they are listed; null where no address lists them, or what it answers is no list. */
  async listed(ruleset: string): Promise<readonly unknown[] | null> {
    const { all } = this.#options.records[ruleset] ?? {};
    if (all === undefined) return null;
    const answer = await this.#sender.send('GET', addressOf(all));
    if ('unanswered' in answer || answer.status < 200 || answer.status > 299) return null;
    const { body } = answer;
    const lists = typeof body === 'object' && body !== null ? [body, ...Object.values(body)].filter(Array.isArray) : [];
    return lists[0] ?? null;
  }

  /** The address of a record that is listed; null where it can't be told. */
  addressIn(ruleset: string, entry: unknown): string | null {
    const whole = this.#recordAt(entry, ruleset);
    return this.addressOf(ruleset, { ...keysOf(whole), ...recordIn(whole, modelOf(ruleset, this.#schema)) });
  }

  /** Removes a record; false where nobody answered. */
  async remove(address: string): Promise<boolean> {
    return !('unanswered' in (await this.#sender.send('DELETE', address)));
  }

  /** Removes what the cases referred to, the last made first, as others may refer to it. What could not be removed stays. */
  async clear(): Promise<void> {
    await Promise.allSettled(this.#shared.values());
    this.#shared.clear();
    const kept: string[] = [];
    for (const address of this.#addresses.splice(0).reverse()) if (!(await this.remove(address))) kept.push(address);
    this.#addresses.push(...kept.reverse());
  }

  /** The records that it made and could not remove. */
  get left(): readonly string[] {
    return this.#addresses;
  }
}

/** The members of an answer: a key that the store gives need not be a field. */
function keysOf(whole: unknown): Row {
  return typeof whole === 'object' && whole !== null && !Array.isArray(whole) ? (whole as Row) : {};
}

function resolved(location: string | undefined, base: string): string | null {
  return location !== undefined && URL.canParse(location, base) ? new URL(location, base).href : null;
}

/** True for an address of as many steps: a page that a form leads on to is no record. */
function isLike(location: string, own: string | null): boolean {
  const steps = (address: string) => new URL(address).pathname.split('/').length;
  return own !== null && steps(location) === steps(own);
}
