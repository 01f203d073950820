/** What a person reads when a rule is broken. `label` is the field's; `limit` the facet's value. */
type Words = (parameters: { readonly label: string; readonly limit: string; readonly expects: string }) => string;

function characters(limit: string): string {
  return limit === '1' ? '1 character' : `${limit} characters`;
}

/** One entry a facet; `<facet>.<domain>` where a domain has words of its own. */
export const violationWords = {
  required: ({ label }) => `${label} is missing.`,
  type: ({ label, expects }) => `${label} must be ${expects}.`,
  'type.record': () => 'Send one record: an object with fields.',
  keys: () => 'This field is not known here.',
  canonical: ({ label }) => `${label} must be stored without outer white space, and not as empty text.`,
  lines: ({ label }) => `${label} must be on one line.`,
  minLength: ({ label, limit }) => `${label} must have at least ${characters(limit)}.`,
  maxLength: ({ label, limit }) => `${label} must have at most ${characters(limit)}.`,
  pattern: ({ label }) => `${label} is not in the expected form.`,
  min: ({ label, limit }) => `${label} must be ${limit} or more.`,
  max: ({ label, limit }) => `${label} must be ${limit} or less.`,
  'min.date': ({ label, limit }) => `${label} must be ${limit} or later.`,
  'max.date': ({ label, limit }) => `${label} must be ${limit} or earlier.`,
  enumeration: ({ label, limit }) => `${label} must be one of: ${limit}.`,
  reference: ({ label, limit }) => `${label} names no ${limit} that exists.`,
  unique: ({ label }) => `${label} is already taken.`,
  combination: ({ label }) => `${label}: this combination is already taken.`,
  rule: ({ label, limit }) => `${label} breaks the rule "${limit}".`,
} satisfies { readonly [facet: string]: Words };

/** The English default for a broken facet of a field whose values are in a domain. */
export function violationMessage(
  facet: keyof typeof violationWords | (string & {}),
  domain: string,
  parameters: { readonly label: string; readonly limit?: string; readonly expects?: string },
): string {
  const table: { readonly [facet: string]: Words } = violationWords;
  const words = [`${facet}.${domain}`, facet].find((key) => Object.hasOwn(table, key));
  if (words === undefined) throw new Error(`no words for the facet ${facet}`);
  return (table[words] as Words)({ limit: '', expects: '', ...parameters });
}
