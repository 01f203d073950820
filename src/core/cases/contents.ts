import type { Case, Wire } from '../model/index.js';
import type { Draft } from './context.js';

type Input = { readonly [name: string]: unknown };

/** The first record of a wire, that others are told apart from by what differs: most of it is the same. */
interface First {
  readonly names: readonly string[];
  readonly values: readonly unknown[];
}

/** The contents of drafts, each noted once: what it is about, how it is sent, and what was there before. */
export class Contents {
  /** By what they are about: short texts are found sooner. */
  readonly #seen = new Map<string, Set<string>>();
  readonly #first: { [W in Wire]?: First } = {};
  readonly #stored = new Map<Case['before'], number>();
  readonly #numbers = new Map<string, number>();

  /** True where no draft of the same content came before. */
  isNew({ constraint, wire, does, input, existing }: Draft, before: Case['before']): boolean {
    const seen = this.#seen.get(constraint) ?? new Set<string>();
    this.#seen.set(constraint, seen);
    const how = does === undefined ? '' : `${does} ${JSON.stringify(existing)}`;
    const count = seen.size;
    seen.add(`${wire} ${this.#numberOf(before)} ${how} ${this.#contentOf(input, wire)}`);
    return seen.size > count;
  }

  /** The same text for the same input: what differs from the first one with the same names, or all of it. */
  #contentOf(input: unknown, wire: Wire): string {
    if (typeof input !== 'object' || input === null || Array.isArray(input)) return `${JSON.stringify(input)}`;
    const record = input as Input;
    const names = Object.keys(record);
    this.#first[wire] ??= { names, values: names.map((name) => record[name]) };
    const first = this.#first[wire];
    if (names.length !== first.names.length) return JSON.stringify(record);
    let differing = '';
    for (let at = 0; at < names.length; at += 1) {
      const name = names[at] as string;
      if (name !== first.names[at]) return JSON.stringify(record);
      const [value, usual] = [record[name], first.values[at]];
      if (value === usual) continue;
      const content = JSON.stringify(value);
      if (typeof value === 'object' && content === JSON.stringify(usual)) continue;
      differing += `${at}:${content} `;
    }
    return differing;
  }

  /** The same number for the same stored rows. */
  #numberOf(before: Case['before']): number {
    const known = this.#stored.get(before);
    if (known !== undefined) return known;
    const content = JSON.stringify(before);
    const number = this.#numbers.get(content) ?? this.#numbers.size;
    this.#numbers.set(content, number);
    this.#stored.set(before, number);
    return number;
  }
}
