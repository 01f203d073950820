import type { KnownField } from '../kinds/index.js';
import type { Model } from '../model/index.js';
import type { Person, Place, Words } from './words.js';

/** What a record tells of: one person and one place, so that its fields go together. */
export interface Teller {
  readonly words: Words;
  readonly person: Person;
  readonly place: Place;
  /** True where the record is about a person. */
  readonly isPerson: boolean;
}
type Tell = (teller: Teller) => string;

const fullName = ({ first, last }: Person) => `${first} ${last}`;

/** What a text holds, by what its field is called; the first that fits. */
const roles: readonly (readonly [called: RegExp, tell: Tell])[] = [
  [/^(?:first ?name|given ?name|forename)$/, ({ person }) => person.first],
  [/^(?:last ?name|surname|family ?name)$/, ({ person }) => person.last],
  [/\b(?:handle|user ?name|login|nick ?name|short ?name)$/, ({ person }) => person.mailbox],
  [/\b(?:city|town)$/, ({ place }) => place.city],
  [/\b(?:street|address|road)$/, ({ place }) => place.street],
  [/\b(?:post ?code|zip ?code|zip)$/, ({ place }) => place.postcode],
  [/\b(?:region|county|province)$/, ({ place }) => place.region],
  [/\bcountry$/, ({ place }) => place.country],
  [/\b(?:phone|mobile|telephone)\b/, ({ words }) => words.phone()],
  [/\b(?:company|organi[sz]ation|firm|employer)$/, ({ words }) => words.company()],
  [/\bcolou?r$/, ({ words }) => words.colour()],
  [/\b(?:notes?|comments?|remarks?|description|details|message|about|text)$/, ({ words }) => words.sentence()],
  [/\b(?:title|subject|headline|label|item|product|what)\b/, ({ words }) => words.thing()],
  // Somebody else than the record is about.
  [
    /\b(?:helper|guest|contact|author|owner|teacher|student|member|person|booked by|signed by)s?$/,
    ({ words }) => fullName(words.person()),
  ],
  [/\bname$/, ({ isPerson, person, words }) => (isPerson ? fullName(person) : words.thing())],
];

/** Fields that only people have. */
const OF_PEOPLE = /\b(?:email|e ?mail|phone|mobile|birth(?: ?day)?|born(?: on)?|first ?name|last ?name|surname)\b/;
const PEOPLE =
  /^(?:person|people|member|user|customer|client|potter|student|teacher|author|guest|patient|employee|contact|artist)s?$/;

/** True where a ruleset is about people, by its name and its fields. */
export function isAboutPeople({ ruleset, fields }: Pick<Model, 'ruleset' | 'fields'>): boolean {
  return PEOPLE.test(spoken(ruleset)) || Object.keys(fields).some((name) => OF_PEOPLE.test(spoken(name)));
}

/** A text for a field by its name, or else by its label. */
export function toldBy(field: KnownField, teller: Teller): string {
  const names = [spoken(field.path.split('.').at(-1)?.replaceAll('[]', '') ?? ''), field.label.toLowerCase()];
  for (const name of names) {
    const found = roles.find(([called]) => called.test(name));
    if (found !== undefined) return found[1](teller);
  }
  return teller.words.phrase();
}

/** A name in words: `loadOn` is "load on". */
export function spoken(name: string): string {
  return name.replace(/([a-z0-9])([A-Z])/g, '$1 $2').toLowerCase();
}
