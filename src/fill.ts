import { base, en, en_US, Faker } from '@faker-js/faker';
import { type AnyRuleset, schemaOf } from './core/declare/index.js';
import { type FilledRuleset, fillSchema, type Words } from './core/fill/index.js';
import type { Row } from './core/model/index.js';

export type { FilledRuleset, Words } from './core/fill/index.js';

export interface FillOptions {
  readonly count: number;
  /** 1 unless told. */
  readonly seed?: number;
  /** The rulesets that get so many; without it, those that no other refers to. */
  readonly rulesets?: readonly string[];
  /** Rows that come first, as they are, by ruleset; canonical. */
  readonly fixed?: ReadonlyMap<string, readonly Row[]>;
  /** Rows that are stored already, by ruleset: nothing repeats them, and references may name them. */
  readonly beside?: ReadonlyMap<string, readonly Row[]>;
}

/**
 * Plausible records of rulesets that live in one database: what `echo-rule fill` writes. They keep all rules, and name
 * records that exist. The same options give the same records.
 *
 * @throws ProblemError `fill_exhausted` where so many can't be told apart, or can't be made
 */
export function fill(rulesets: readonly AnyRuleset[], options: FillOptions): readonly FilledRuleset[] {
  const { seed = 1, count, ...more } = options;
  const { rulesets: asked, fixed, beside } = more;
  return fillSchema(schemaOf(rulesets), {
    count,
    seed,
    words: englishWords(),
    ...(asked === undefined ? {} : { rulesets: asked }),
    ...(fixed === undefined ? {} : { fixed }),
    ...(beside === undefined ? {} : { beside }),
  });
}

/** What people write where they may write anything. */
const REMARKS = [
  'Please call first.',
  'Paid in advance.',
  'The first time.',
  'Ask at the desk.',
  'Will be late.',
  'Handle with care.',
  'As agreed on the phone.',
  'To be collected by a friend.',
  'Same as last time.',
  'Not before noon.',
  'One piece is chipped.',
  'Keep apart from the others.',
  'A gift, so no bill inside.',
  'Needs a second look.',
  'Bring the long shelf.',
  'Left over from the course.',
];

/** Made-up English words: people and places that don't exist. */
export function englishWords(): Words {
  const faker = new Faker({ locale: [en_US, en, base] });
  return {
    seed: (seed) => void faker.seed(seed),
    person() {
      const [first, last] = [faker.person.firstName(), faker.person.lastName()];
      return { first, last, mailbox: `${plain(first)}.${plain(last)}` };
    },
    place() {
      const region = faker.location.state({ abbreviated: true });
      const postcode = faker.location.zipCode({ state: region });
      const [street, city] = [faker.location.streetAddress(), faker.location.city()];
      return { street, city, region, postcode, country: 'United States' };
    },
    thing: () => faker.commerce.productName(),
    phrase: () => `${faker.word.adjective()} ${faker.word.noun()}`,
    sentence: () => faker.helpers.arrayElements(REMARKS, { min: 1, max: 2 }).join(' '),
    // Numbers from 555-0100 to 555-0199 are kept free for fiction.
    phone: () => `+1 ${faker.string.numeric(3)} 555 01${faker.string.numeric(2)}`,
    company: () => faker.company.name(),
    colour: () => faker.color.human(),
  };
}

function plain(name: string): string {
  return name.toLowerCase().replace(/[^a-z]+/g, '');
}
