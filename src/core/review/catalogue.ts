/** How much a finding weighs: what can't be, what is most likely not meant, what is good to know. */
export const severities = ['error', 'warning', 'note'] as const;
export type Severity = (typeof severities)[number];

interface Entry {
  readonly title: string;
  /** What it means, for the docs and for readers of reports. */
  readonly about: string;
}

/** One entry a finding; the code is its name everywhere, and the anchor in docs/review.md. */
export const findings = {
  no_value: {
    title: 'A field that no value fits',
    about:
      "The field's own rules leave no value: a least length above the greatest, a pattern that no text of the allowed length fits.",
  },
  contradiction: {
    title: 'Rules that no record can keep together',
    about:
      'Whatever is sent is refused. The rules that are listed are a smallest set: without any one of them, the others can be kept.',
  },
  only_absent: {
    title: 'A field that can only be absent, a list that can only be empty',
    about: 'Each record that gives it is refused, by rules over several fields.',
  },
  never_fires: {
    title: 'A condition that is never met',
    about: 'An implication whose condition no record can meet says nothing.',
  },
  conclusion_unknown: {
    title: 'An implication that an absent value passes',
    about:
      'A comparison with an absent value is unknown, and a rule is broken only where it is false: the implication holds although what it asks for is not there.',
  },
  redundant: {
    title: 'A rule that says nothing new',
    about: 'Every record that keeps the other rules keeps this one. It may still be worth keeping for its message.',
  },
  default_refused: {
    title: 'A default that is refused',
    about: 'A record that leaves the field out gets the default, and is refused for it.',
  },
  choice_unreachable: {
    title: 'A choice that nobody can take',
    about: 'Every record with this choice breaks another rule.',
  },
  reference_unfit: {
    title: 'A key that does not fit the reference to it',
    about: 'Some records can be stored, and never be referred to.',
  },
  few_values: {
    title: 'A unique rule over few values',
    about: 'No more records can be stored than there are values.',
  },
  no_first_row: {
    title: 'Rulesets of which no first record can be stored',
    about:
      'Each requires a record of the next, and the last one of the first: whichever is stored first refers to one that is not there.',
  },
  names_collide: {
    title: 'Names that meet in a database',
    about: 'Engines cut and fold names; two that are one there can not both be made.',
  },
  not_stored: {
    title: 'A rule that no database holds',
    about: 'Only the server and the page hold it: what writes into the tables by another way is not checked.',
  },
  client_blind: {
    title: 'A rule that the page can not tell',
    about: 'A person hears of it only when the record has been sent.',
  },
  attribute_left_out: {
    title: 'A native attribute that would be stricter',
    about:
      'The attribute of HTML would refuse what the rule allows, so the made form does not have it; script says it instead.',
  },
  pattern_slow: {
    title: 'A pattern that takes too long',
    about:
      'A matcher that tries one way after another takes a time that grows much faster than the text. Compiled validators match it by a table; code by hand and databases that are given the same pattern do not.',
  },
  undecided: {
    title: 'A question that was not decided',
    about: 'What was asked is beyond what can be proved here, or would take too long. Nothing is claimed either way.',
  },
} as const satisfies { readonly [code: string]: Entry };

export type FindingCode = keyof typeof findings;
