/**
 * What a person reads, with `{label}` for the field's label and `{limit}` for the facet's value; where the words
 * depend on a number, one text a plural category of the language (CLDR's, as Intl.PluralRules names them).
 */
export type Words =
  | string
  | ({ readonly [C in 'zero' | 'one' | 'two' | 'few' | 'many']?: string } & { readonly other: string });

/**
 * Every entry of a catalogue: `<facet>`, or `<facet>.<kind or domain>` where one has words of its own; and what made forms
 * say. In a hint between two limits, `{label}` is the lower one.
 */
export const wordKeys = [
  'required',
  'type.record',
  'type.list',
  'type.text',
  'type.email',
  'type.url',
  'type.uuid',
  'type.ip',
  'type.integer',
  'type.decimal',
  'type.boolean',
  'type.date',
  'type.time',
  'type.minutes',
  'type.timestamp',
  'type.dateTime',
  'type.choice',
  'type.whole',
  'keys',
  'limits',
  'canonical',
  'lines',
  'minLength',
  'maxLength',
  'charset.ascii',
  'charset.latin-1',
  'charset.bmp',
  'format.email',
  'format.url',
  'format.uuid',
  'format.ip',
  'pattern',
  'min',
  'max',
  'min.date',
  'max.date',
  'min.time',
  'max.time',
  'min.instant',
  'max.instant',
  'min.local',
  'max.local',
  'precision',
  'scale',
  'step',
  'step.time',
  'must',
  'enumeration',
  'minItems',
  'maxItems',
  'distinct',
  'reference',
  'unique',
  'combination',
  'rule',
  'inUse',
  'inUse.by',
  'refused',
  'hint.sample',
  'hint.characters.between',
  'hint.characters.least',
  'hint.characters.most',
  'hint.whole',
  'hint.whole.between',
  'hint.whole.least',
  'hint.whole.most',
  'hint.number',
  'hint.number.between',
  'hint.number.least',
  'hint.number.most',
  'form.optional',
  'form.kept',
  'form.yes',
  'form.no',
  'form.save',
  'form.add',
  'form.remove',
  'form.putBack',
  'form.summary',
] as const;
export type WordKey = (typeof wordKeys)[number];

/** The words of one language. What a project says in its own words it translates by label, rule and choice. */
export interface Catalogue {
  /** A BCP 47 tag, for the plural rules. */
  readonly language: string;
  readonly words: { readonly [K in WordKey]: Words };
  /** Labels of fields, by ruleset and path: `firing.shelf.bay`. */
  readonly labels?: { readonly [field: string]: string };
  /** Whole messages, by the constraint's id: `firing.lustreNeedsVenting`. */
  readonly messages?: { readonly [rule: string]: string };
}

/** What a message is made from. */
export interface Phrase {
  /** The entries to look for, the most special first. */
  readonly keys: readonly string[];
  readonly label: string;
  readonly limit: string;
}

/** A message in the language of a catalogue. Throws where it has no such words: that is a fault of ours. */
export function phrase(catalogue: Catalogue, { keys, label, limit }: Phrase): string {
  const table: { readonly [key: string]: Words } = catalogue.words;
  const key = keys.find((one) => Object.hasOwn(table, one));
  const words = key === undefined ? undefined : table[key];
  if (words === undefined) throw new Error(`no words for ${keys.join(' or ')} in ${catalogue.language}`);
  const text = typeof words === 'string' ? words : (words[categoryOf(catalogue.language, limit)] ?? words.other);
  return fillIn(text, label, limit);
}

/** Words with the label and the limit in their places. */
export function fillIn(words: string, label: string, limit: string): string {
  return words.replace(/\{(label|limit)\}/g, (_, name) => (name === 'label' ? label : limit));
}

function categoryOf(language: string, limit: string): Intl.LDMLPluralRule {
  return new Intl.PluralRules(language).select(Number(limit));
}

/** What a message is said of: a constraint, as far as its words go. */
interface Told {
  readonly id: string;
  readonly owner: string;
  readonly blame: string;
  readonly message: string;
  readonly phrase: Phrase | null;
}

/** The message of a constraint in another language; what the declaration says in its own words stays, unless said anew. */
export function messageIn(
  catalogue: Catalogue,
  ruleset: string,
  { id, owner, blame, message, phrase: said }: Told,
): string {
  const own = catalogue.messages ?? {};
  if (Object.hasOwn(own, id)) return own[id] ?? message;
  if (said === null) return message;
  const field = `${ruleset}.${owner === '' ? blame : owner}`;
  const labels = catalogue.labels ?? {};
  const together = said.keys.includes('combination');
  const label = !together && Object.hasOwn(labels, field) ? (labels[field] ?? said.label) : said.label;
  return phrase(catalogue, { ...said, label });
}
