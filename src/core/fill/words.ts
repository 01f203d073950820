/** Somebody who does not exist, in parts that go together. */
export interface Person {
  readonly first: string;
  readonly last: string;
  /** The part of an address before the at sign, in small letters. */
  readonly mailbox: string;
}

/** Somewhere that does not exist, in parts that go together. */
export interface Place {
  readonly street: string;
  readonly city: string;
  readonly region: string;
  readonly postcode: string;
  readonly country: string;
}

/** Made-up words for test data; the same ones again after the same seed. */
export interface Words {
  seed(seed: number): void;
  person(): Person;
  place(): Place;
  /** What a thing is called. */
  thing(): string;
  /** A word or two that say little. */
  phrase(): string;
  sentence(): string;
  phone(): string;
  company(): string;
  colour(): string;
}
