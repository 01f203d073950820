import { entry, type Make } from './entry.js';

/** What is wrong with rulesets as they are written, by themselves or together. */
export const ofDeclarations = {
  nameInvalid: entry('name_invalid', (what, name) => [
    `The ${what} name ${JSON.stringify(name)} can't be used: it becomes part of ids, columns and form controls.`,
    'Start with a lower-case letter and continue with letters and digits (A–Z, a–z, 0–9) and single underscores between them, 60 characters at most; the text that people read is the label.',
  ]),
  nameReserved: entry('name_reserved', (name) => [
    `The rule name "${name}" is reserved for what every ruleset has.`,
    'Choose another name than type, required, canonical, keys, limits, inUse or refused.',
  ]),
  columnInvalid: entry('column_invalid', (what, name) => [
    `The ${what} name ${JSON.stringify(name)} is one that some database refuses or cuts.`,
    'Use 1 to 63 bytes, without the null character.',
  ]),
  namesMeet: entry('names_meet', (name, first, second) => [
    `${first} and ${second} both become "${name}" in the database.`,
    'Rename one of them; for a field or a ruleset, another column (column: …) or table (table: …) does it too.',
  ]),
  keyTooLong: entry('key_too_long', (field, engine, most) => [
    `The key ${field} can be longer than an index entry of ${engine} holds.`,
    `Give it a maxLength of ${most} at most.`,
  ]),
  nameUnfit: entry('name_unfit', (name, engine, why) => [
    `${engine} can't have the name ${JSON.stringify(name)}: ${why}.`,
    'Say another one with column or table, or leave the target out of the settings (targets: […]).',
  ]),
  optionUnknown: entry('option_unknown', (option, what, known) => [
    `${what} has no option "${option}".`,
    `It takes ${known}.`,
  ]),
  facetInvalid: entry('facet_invalid', (facet, expected, found) => [
    `${facet} must be ${expected}, not ${found}.`,
    'Correct the value.',
  ]),
  facetsClash: entry('facets_clash', (what, other, why) => [
    `${what} and ${other} don't go together: ${why}.`,
    'Leave one of them out.',
  ]),
  defaultBroken: entry('default_broken', (field, value, kind) => [
    `The default of ${field}, ${value}, is no ${kind} in canonical form.`,
    'Give a default as it would be stored.',
  ]),
  derivedUnmarked: entry('derived_unmarked', (field) => [
    `"${field}" is worked out under derived, but it is not a field that is declared so.`,
    "Add generated: 'derived' to the field.",
  ]),
  derivedMissing: entry('derived_missing', (field) => [
    `"${field}" is generated: 'derived', but nothing says what it is worked out by.`,
    'Say it under derived: (it) => ({ slug: it.title.slug() }).',
  ]),
  derivedFrom: entry('derived_source', (field, from) => [
    `"${field}" can't be worked out of ${from || 'nothing'}.`,
    'Work it out from fields of the record that somebody sends; those in a list are several.',
  ]),
  zoneUnknown: entry('zone_unknown', (zone) => [
    `The time zone "${zone}" is not known.`,
    "Name one of the IANA database, such as 'Europe/Warsaw', or 'UTC'.",
  ]),
  secretHolder: entry('secret_holder', (field, holder) => [
    `The secret "${field}" is stored as "${holder}", which is not a field that only the database has.`,
    `Declare it: ${holder || 'digest'}: text({ enforcedIn: ['database'] }).`,
  ]),
  clockInvalid: entry('clock_invalid', (found) => [
    `The clock ${found} is none.`,
    "Give { instant: '2026-03-02T09:00:00Z' }, and perhaps an IANA time zone: { instant, zone: 'Europe/Warsaw' }.",
  ]),
  handleUnknown: entry('handle_unknown', (ruleset, name, known) => [
    `The rules of ${ruleset} use a field "${name}", which it hasn't got.`,
    `It has ${known}.`,
  ]),
  nameRepeated: entry('name_repeated', (name) => [
    `"${name}" is in both bundles.`,
    'Rename one of them: neither is overwritten silently.',
  ]),
  extensionGone: entry('extension_gone', (name, field, base, known) => [
    `${name} changes the field "${field}", which ${base} hasn't got (any more).`,
    `Change one of ${known}, or add it under add.`,
  ]),
  extensionTwice: entry('extension_twice', (name, field, base) => [
    `${name} adds the field "${field}", which ${base} has already.`,
    'Say it under change, or give it another name.',
  ]),
  patternInvalid: entry('pattern_invalid', (pattern, reason) => [
    `The pattern ${pattern} can't be read under flag u: ${reason}.`,
    'Escape only what needs it (\\- outside a class does not), or write the literal with flag v.',
  ]),
  patternFlags: entry('pattern_flags', (pattern, flags) => [
    `The pattern ${pattern} has the flags "${flags}", which mean nothing for a whole value.`,
    'Keep only i, s, u or v; the pattern always covers the whole value, so ^, $ and m are not needed.',
  ]),
  choicesEmpty: entry('choices_empty', (field) => [
    `The choice ${field} has no choices.`,
    "Give at least one: choice({ code: 'Label' }).",
  ]),
  choiceCode: entry('choice_code', (code) => [
    `The choice code ${JSON.stringify(code)} can't be used: it is empty, padded, number-like (JavaScript moves such keys to the front), or there twice.`,
    "Use text codes that start with a letter, or pairs for whole numbers: choice([[10, 'Low'], [20, 'High']]).",
  ]),
  fieldsEmpty: entry('fields_empty', (ruleset) => [
    `The ruleset ${ruleset} has no fields.`,
    'Declare at least one field.',
  ]),
  keyUnknown: entry('key_unknown', (option, name, known) => [
    `${option} names "${name}", which is not a field.`,
    `Name one of ${known}.`,
  ]),
  keyOptional: entry('key_optional', (name) => [
    `The key field "${name}" is optional, so some records would have no key.`,
    'Remove optional: true from it, or name another key.',
  ]),
  keyComposite: entry('key_composite', (name) => [
    `The key field "${name}" is a record or a list.`,
    'Name a field with a value of its own.',
  ]),
  referenceUndefined: entry('reference_undefined', () => [
    'reference(…) was given no ruleset: its name is misspelt, or two files import each other and this one is read first.',
    "Correct the name; in a circle refer by name, with the kind of the key: reference('person', integer()).",
  ]),
  referenceUnkeyed: entry('reference_unkeyed', (target) => [
    `reference('${target}') was given no kind for the key of ${target}.`,
    `Give the kind that its key has, then the options: reference('${target}', integer(), { … }).`,
  ]),
  importUnknown: entry('import_unknown', (name, from, nearest) => [
    `${from} exports nothing called "${name}".`,
    nearest === '' ? 'Correct the import.' : `Import "${nearest}" instead, if that is meant.`,
  ]),
  messageUnknown: entry('message_unknown', (field, facet, known) => [
    `messages of ${field} has words for "${facet}", and no rule of the field is called so.`,
    `It has ${known}.`,
  ]),
  referenceKind: entry('reference_kind', (field, target, kind) => [
    `${field} does not hold the key of ${target}, which is of the kind ${kind}.`,
    `Give the key's kind: reference('${target}', ${kind}(…)).`,
  ]),
  referenceKeyless: entry('reference_keyless', (target) => [
    `The ruleset ${target} has no key, so nothing can refer to it.`,
    `Declare its key: ruleset('${target}', { key: '…', … }).`,
  ]),
  referenceUnknown: entry('reference_unknown', (field, target) => [
    `${field} refers to the ruleset "${target}", which is not among those given.`,
    `Export "${target}" from a rules file that the configuration names.`,
  ]),
  rulesetTwice: entry('ruleset_twice', (name, other) => [
    `The ruleset name "${name}" is used twice; the other one is at ${other}.`,
    'Rename one of them.',
  ]),
  ruleShape: entry('rule_shape', (name) => [
    `The rule "${name}" is not an expression.`,
    'Give an expression over the fields, rule({ holds, blame, message }), or unique(…).',
  ]),
  ruleForeign: entry('rule_foreign', (name, path) => [
    `The rule "${name}" uses a field "${path}" that this ruleset hasn't got.`,
    'Use the handles that the rules function is given.',
  ]),
  blameUnmentioned: entry('blame_unmentioned', (name, blame, mentioned) => [
    `The rule "${name}" blames "${blame}", which it does not mention.`,
    `Blame one of the fields that it is about: ${mentioned}.`,
  ]),
  blameWithin: entry('blame_within', (name, blame, list) => [
    `The rule "${name}" blames "${blame}", which is in many entries of ${list}.`,
    'Blame a field outside, or make the rule one of each entry: it.list.each((entry) => …) alone.',
  ]),
  patternNotRegular: entry('pattern_not_regular', (id, construct) => [
    `The pattern of ${id} uses ${construct}, which is not regular: no database can hold it.`,
    'Write it without, or leave the rule to the client and the server.',
  ]),
  patternTooLarge: entry('pattern_too_large', (id, why) => [
    `The pattern of ${id} can't be matched in a time that grows no faster than the text: ${why}.`,
    'Bring its repeats down, or say the length with maxLength instead.',
  ]),
  patternTooSlow: entry('pattern_too_slow', (id, steps, longest, most) => [
    `The pattern of ${id} takes up to ${steps} steps for each character of a text, which is too many for ${longest} characters.`,
    `Declare a maxLength of ${most} or less, or write the pattern with fewer repeats.`,
  ]),
} as const satisfies { readonly [name: string]: Make };
