import type { Place } from '../model/index.js';
import type { Problem } from './problem.js';

type Make = (place: Place | null, ...parameters: string[]) => Problem;

/** Fixes the code and leaves the words: each entry gives what is wrong and how to mend it. */
function entry(code: string, words: (...parameters: string[]) => readonly [message: string, mend: string]): Make {
  return (place, ...parameters) => {
    const [message, mend] = words(...parameters);
    return { code, place, message, mend };
  };
}

/** One entry a problem; the code is the name in snake case and the anchor in docs/problems.md. */
export const problems = {
  nameInvalid: entry('name_invalid', (what, name) => [
    `The ${what} name ${JSON.stringify(name)} can't be used: it becomes part of ids, columns and form controls.`,
    'Start with a lower-case letter and go on with letters and digits (A–Z, a–z, 0–9), 60 at most; say the shown text with label.',
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
    "Use text codes that start with a letter, or pairs for whole numbers: choice([[10, 'Celadon'], [20, 'Tenmoku']]).",
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
  configMissing: entry('config_missing', (file) => [
    `There is no configuration at ${file}.`,
    "Create it (export default settings({ rules: ['*.rules.ts'], output: 'echo' })), or name another with --config.",
  ]),
  configInvalid: entry('config_invalid', (what, expected) => [
    `The configuration is wrong at ${what}.`,
    `Expected ${expected}.`,
  ]),
  rulesMissing: entry('rules_missing', (pattern, folder) => [
    `No file in ${folder} fits "${pattern}".`,
    'Correct rules in the configuration; the paths are relative to its folder.',
  ]),
  rulesetsMissing: entry('rulesets_missing', (files) => [
    `No ruleset is exported from ${files}.`,
    "Export one: export const kiln = ruleset('kiln', { fields: { … } }).",
  ]),
  fileBroken: entry('file_broken', (file, reason) => [
    `${file} doesn't load: ${reason}`,
    'Correct the file, then run the command again.',
  ]),
  fileMissing: entry('file_missing', (what, file) => [
    `${what} names ${file}, which isn't there.`,
    'Correct the path; it is relative to the folder of the configuration.',
  ]),
  fileEdited: entry('file_edited', (file) => [
    `${file} was made by echo-rule and edited by hand since; making it again would lose the edit. Nothing was written.`,
    'Move the edit to a file of your own and run again with --overwrite, which makes the file anew.',
  ]),
  fileForeign: entry('file_foreign', (file) => [
    `${file} was not made by echo-rule, and would be overwritten. Nothing was written.`,
    'Move it, or choose another output folder.',
  ]),
  fileExists: entry('file_exists', (file) => [
    `${file} is there already. Nothing was written.`,
    'Choose another name, or run again with --overwrite.',
  ]),
  fileUnwritable: entry('file_unwritable', (file, reason) => [
    `${file} can't be written: ${reason}.`,
    'Mend the folder or its rights, or choose another; nothing half-written was left behind.',
  ]),
  notCompiled: entry('not_compiled', (file) => [
    `The layer needs ${file}, which has not been made yet.`,
    'Run echo-rule compile first.',
  ]),
  layerUnknown: entry('layer_unknown', (name, known) => [`There is no layer "${name}".`, `Choose among: ${known}.`]),
  layerStoreless: entry('layer_storeless', (name) => [
    `The layer "${name}" keeps no records that could be read.`,
    'Name a layer of tables, or a file: --beside <ruleset>=<file>.',
  ]),
  layersMissing: entry('layers_missing', () => [
    'The configuration names no layers, so there is nobody to ask.',
    "Add layers: { server: compiledFunction(), … } (see 'echo-rule/layers').",
  ]),
  rulesetUnknown: entry('ruleset_unknown', (name, known) => [
    `There is no ruleset "${name}".`,
    `Choose among: ${known}.`,
  ]),
  ruleUnknown: entry('rule_unknown', (name, known) => [`There is no rule "${name}".`, `Choose among: ${known}.`]),
  optionMissing: entry('option_missing', (format, option, values) => [
    `--format ${format} needs ${option}.`,
    `Add ${option} ${values}.`,
  ]),
  fieldUnknown: entry('field_unknown', (name, known) => [`There is no field "${name}".`, `Choose among: ${known}.`]),
  fieldAmbiguous: entry('field_ambiguous', (name, known) => [
    `Several rulesets have a field "${name}".`,
    `Say which one: ${known}.`,
  ]),
  driverMissing: entry('driver_missing', (name) => [
    `The package ${name} is needed for this layer and isn't installed.`,
    `npm install --save-dev ${name}`,
  ]),
  addressMissing: entry('address_missing', (layer) => [
    `${layer} needs a database that runs: the engine has no form that runs in this process.`,
    'Give it an address (url: …) or an open connection (handle: …).',
  ]),
  variableMissing: entry('variable_missing', (name) => [
    `The configuration names the environment's variable ${name}, which is not set.`,
    `Set it before the command, as ${name}=… echo-rule probe, or leave the layer out with --layer.`,
  ]),
  handlePool: entry('handle_pool', () => [
    'A pool was given where one connection is needed: every statement of a pool may go by another one.',
    'Take a connection from it first, and give that.',
  ]),
  handleStrange: entry('handle_strange', () => [
    'What was given is no open connection that is known.',
    'Give the connection of pg, mysql2, a native driver of SQLite, or an engine in WASM.',
  ]),
  layerUnreachable: entry('layer_unreachable', (name, reason) => [
    `The layer "${name}" can't be reached: ${reason}`,
    'Mend what it says, or leave the layer out with --layer.',
  ]),
  scratchInvalid: entry('scratch_invalid', (known) => [
    '--scratch takes <engine>=<address>, of an engine that has a server and is compiled for.',
    `Name one of ${known}, as in --scratch mariadb=mysql://root@127.0.0.1:3306/.`,
  ]),
  scratchUnreachable: entry('scratch_unreachable', (reason) => [
    `The server that --scratch names can't be used: ${reason}`,
    'Mend what it says, or leave --scratch out: that layer is left out then, or runs in this process.',
  ]),
  scratchRefused: entry('scratch_refused', (engine, reason) => [
    `The server that --scratch names for ${engine} makes no scratch database: ${reason}`,
    'Give an account that may create and drop databases (of PostgreSQL, schemas in the database that the address names).',
  ]),
  scratchAlone: entry('scratch_alone', () => [
    '--scratch says where --strength plants mistakes, and --strength is not asked for.',
    'Add --strength, or leave --scratch out.',
  ]),
  recordInvalid: entry('record_invalid', (reason) => [
    `The record is not JSON: ${reason}.`,
    `Give one object, as in echo-rule try kiln '{"code":"K01","hottest":1280}', or - to read it from standard input.`,
  ]),
  fillExhausted: entry('fill_exhausted', (ruleset, found, count, rule) => [
    `No more than ${found} of ${count} records of ${ruleset} can be made: ${rule === '' ? 'no others were found that keep all its rules' : `no others differ by ${rule}`}. Nothing was written.`,
    'Ask for fewer, or loosen the rule.',
  ]),
  rowRefused: entry('row_refused', (ruleset, pointer, rule, message) => [
    `This row is no valid ${ruleset}: ${pointer === '' ? '' : `${pointer}: `}${message} (${rule})`,
    'Mend the row, or take it out.',
  ]),
  rowUnread: entry('row_unread', (what, reason) => [
    `This can't be read as ${what}: ${reason}.`,
    'Write one JSON object a line, or a table with the names of the form above it.',
  ]),
  noFirstRow: entry('no_first_row', (ruleset, circle) => [
    `No first record of ${ruleset} can be stored: ${circle} require each other in a circle.`,
    'Make one of the references on the way optional, so that its record can be stored first and changed later.',
  ]),
  noBase: entry('no_base', (ruleset, broken) => [
    `No valid record of ${ruleset} was found to start from; still broken: ${broken}.`,
    'echo-rule review tells rules that contradict each other; otherwise a pattern is one that no text can be made for: loosen one of them.',
  ]),
} as const satisfies { readonly [name: string]: Make };
