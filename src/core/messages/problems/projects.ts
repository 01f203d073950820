import { entry, type Make } from './entry.js';

/** What is wrong with a project: its settings, files, layers and records, and how it is asked. */
export const ofProjects = {
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
    "Export one: export const booking = ruleset('booking', { fields: { … } }).",
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
  anotherRuns: entry('another_runs', (folder, file) => [
    `Another run of echo-rule writes into ${folder}, and does not end. Nothing was written.`,
    `Wait until it ends; if none runs, remove ${file}.`,
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
    "Add layers: { server: functionLayer(), form: formLayer() }, whose functions 'echo-rule/layers' exports.",
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
    'Correct what it says, or name the other layers with --layer.',
  ]),
  layerUnfit: entry('layer_unfit', (name, reason) => [
    `The layer "${name}" is there, but can't be probed: ${reason}.`,
    'Create what is missing, or say with names and rulesets what the layer has; otherwise name the other layers with --layer.',
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
    '--scratch says where --strength plants mistakes, and --strength is missing.',
    'Add --strength, or leave --scratch out.',
  ]),
  recordInvalid: entry('record_invalid', (reason) => [
    `The record is not JSON: ${reason}.`,
    `Give one JSON object in single quotes, as '{"name":"A"}', or - to read it from standard input.`,
  ]),
  lookUpMissing: entry('look_up_missing', (ruleset, names) => [
    `${ruleset} has rules that ask a function which was not given: ${names}.`,
    'Give each by its name: lookUps: { … }, to endpoint(…), to checkAsync(record, { lookUps }), or in the settings by ruleset.',
  ]),
  lookUpUnknown: entry('look_up_unknown', (ruleset, name, known) => [
    `lookUps has a function "${name}", and ${ruleset} has no lookUp rule of that name.`,
    known === '' ? 'It has none at all: leave lookUps out.' : `It has ${known}.`,
  ]),
  functionOutside: entry('function_outside', (rule, names) => [
    `The function of ${rule} uses ${names} from outside of itself: what is compiled of it has no such name.`,
    'Write what it needs into the function itself. What asks a store or a service is a lookUp([…]), whose function the server is given by name.',
  ]),
  functionUnread: entry('function_unread', (rule, reason) => [
    `The function of ${rule} can't be compiled: ${reason}.`,
    'Write it as an arrow function in the rule.',
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
    'echo-rule review reports rules that contradict each other; otherwise no text was found for a pattern: loosen one of them.',
  ]),
} as const satisfies { readonly [name: string]: Make };
