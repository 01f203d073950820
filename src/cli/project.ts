import { existsSync } from 'node:fs';
import { dirname, relative, resolve } from 'node:path';
import { glob } from 'tinyglobby';
import type { Settings } from '../config.js';
import { type AnyRuleset, type Schema, schemaOf } from '../core/declare/index.js';
import { type Problem, ProblemError, problems, problemsOf } from '../core/messages/index.js';
import type { LookUps, Place } from '../core/model/index.js';
import { allTargetNames, type TargetName, targetNames } from '../core/targets/index.js';
import type { Layer, Surroundings } from '../layers/layer.js';
import { loadModule } from '../layers/module-loader.js';
import { placeIn } from './lines.js';

export interface PassedOver {
  readonly file: string;
  readonly what: string;
  readonly why: string;
}

/** A configuration with everything that it names, loaded. */
export interface Project extends Surroundings {
  readonly layers: { readonly [name: string]: Layer };
  readonly targets: readonly TargetName[];
  /** The file that each ruleset is exported from, relative to the folder. */
  readonly sources: ReadonlyMap<string, string>;
  readonly passedOver: readonly PassedOver[];
  /** What rules ask someone else, by ruleset. */
  readonly lookUps: { readonly [ruleset: string]: LookUps };
  /** Files of given rows, by ruleset. */
  readonly records: ReadonlyMap<string, string>;
}

export const defaultConfig = 'echo-rule.config.ts';

/**
 * Loads a configuration and the rulesets that it names.
 *
 * @throws ProblemError for a configuration or a rules file that is missing, doesn't load, or says what can't be
 */
export async function loadProject(configFile: string): Promise<Project> {
  const file = resolve(configFile);
  if (!existsSync(file)) throw new ProblemError([problems.configMissing(null, file)]);
  const settings = checked((await loadModule(file)).default, file);
  const folder = dirname(file);
  const { rulesets, sources, passedOver } = await findRulesets(settings, folder, file);
  const names = rulesets.map(({ name }) => name);
  const unknown = Object.values(settings.layers ?? {})
    .flatMap((layer) => layer.rulesets ?? [])
    .concat(Object.keys(settings.records ?? {}), Object.keys(settings.lookUps ?? {}))
    .filter((name) => !names.includes(name));
  if (unknown.length > 0) {
    throw new ProblemError(unknown.map((name) => problems.rulesetUnknown(placeIn(file, name), name, names.join(', '))));
  }
  return {
    folder,
    output: resolve(folder, settings.output),
    layers: settings.layers ?? {},
    targets: settings.targets ?? targetNames,
    schema: schemaOf(rulesets),
    sources,
    passedOver,
    lookUps: settings.lookUps ?? {},
    records: new Map(Object.entries(settings.records ?? {}).map(([name, path]) => [name, resolve(folder, path)])),
  };
}

/** The project with only the named rulesets and layers asked; all of them where none is named. */
export function narrowed(
  project: Project,
  wanted: { readonly ruleset?: readonly string[]; readonly layer?: readonly string[] },
): { readonly asked: Schema; readonly layers: Project['layers'] } {
  const rulesets = project.schema.map(({ ruleset }) => ruleset);
  const layers = Object.keys(project.layers);
  const found: Problem[] = [
    ...(wanted.ruleset ?? [])
      .filter((name) => !rulesets.includes(name))
      .map((name) => problems.rulesetUnknown(null, name, rulesets.join(', '))),
    ...(wanted.layer ?? [])
      .filter((name) => !layers.includes(name))
      .map((name) => problems.layerUnknown(null, name, layers.join(', '))),
  ];
  if (found.length > 0) throw new ProblemError(found);
  return {
    asked: project.schema.filter(({ ruleset }) => wanted.ruleset?.includes(ruleset) ?? true),
    layers: Object.fromEntries(Object.entries(project.layers).filter(([name]) => wanted.layer?.includes(name) ?? true)),
  };
}

function checked(said: unknown, file: string): Settings {
  const wrong = (what: string, expected: string): never => {
    throw new ProblemError([problems.configInvalid(placeIn(file, what), what, expected)]);
  };
  if (typeof said !== 'object' || said === null) return wrong('the default export', 'export default settings({ … })');
  const settings = said as Settings;
  const known = ['rules', 'output', 'targets', 'records', 'lookUps', 'layers'];
  const strange = Object.keys(settings).find((key) => !known.includes(key));
  if (strange !== undefined) return wrong(strange, `one of ${known.join(', ')}`);
  const isListOfText = Array.isArray(settings.rules) && settings.rules.every((glob) => typeof glob === 'string');
  if (!isListOfText || settings.rules.length === 0) return wrong('rules', "a list of globs, as ['rules/*.rules.ts']");
  if (typeof settings.output !== 'string' || settings.output === '') return wrong('output', "a folder, as 'echo'");
  const { targets = targetNames } = settings;
  if (!Array.isArray(targets) || targets.length === 0 || targets.some((name) => !allTargetNames.includes(name)))
    return wrong('targets', `a list of ${allTargetNames.join(', ')}`);
  checkEntries(settings, wrong);
  return settings;
}

/** The settings by ruleset, rule or layer. */
function checkEntries({ records, lookUps, layers }: Settings, wrong: (what: string, expected: string) => never): void {
  for (const [name, path] of Object.entries(records ?? {}))
    if (typeof path !== 'string' || path === '') wrong(`records.${name}`, "a file, as 'records/kiln.jsonl'");
  for (const [ruleset, functions] of Object.entries(lookUps ?? {}))
    for (const [name, given] of Object.entries(functions ?? {}))
      if (typeof given !== 'function') wrong(`lookUps.${ruleset}.${name}`, 'a function');
  for (const [name, layer] of Object.entries(layers ?? {}))
    if (typeof layer?.open !== 'function') wrong(`layers.${name}`, "a layer, as functionLayer() of 'echo-rule/layers'");
}

async function findRulesets({ rules }: Settings, folder: string, config: string) {
  const files = new Set<string>();
  for (const pattern of rules) {
    const fitting = await glob(pattern, { cwd: folder, absolute: true });
    if (fitting.length === 0)
      throw new ProblemError([problems.rulesMissing(placeIn(config, 'rules'), pattern, folder)]);
    for (const file of fitting.sort()) files.add(file);
  }
  const rulesets: AnyRuleset[] = [];
  const sources = new Map<string, string>();
  const passedOver: PassedOver[] = [];
  const found: Problem[] = [];
  for (const file of files) {
    const shown = relative(folder, file);
    const exports = await loadModule(file).catch((error: unknown) => {
      found.push(...(problemsOf(error) ?? raise(error)));
      return {};
    });
    for (const [name, value] of Object.entries(exports)) {
      if (!isRuleset(value)) passedOver.push({ file: shown, what: name, why: whatItIs(value) });
      else if (isTwin(value, rulesets))
        passedOver.push({ file: shown, what: name, why: 'exported before, from another file' });
      else {
        rulesets.push(value);
        if (!sources.has(value.name)) sources.set(value.name, shown);
      }
    }
    if (Object.keys(exports).length === 0 && found.length === 0)
      passedOver.push({ file: shown, what: '(the file)', why: 'it exports nothing' });
  }
  if (found.length > 0) throw new ProblemError(once(found));
  if (rulesets.length === 0) throw new ProblemError([problems.rulesetsMissing(null, rules.join(', '))]);
  return { rulesets, sources, passedOver };
}

/** Each problem once: a file that another one imports is loaded twice. */
function once(found: readonly Problem[]): readonly Problem[] {
  return [...new Map(found.map((problem) => [JSON.stringify(problem), problem])).values()];
}

function raise(error: unknown): never {
  throw error;
}

function isRuleset(value: unknown): value is AnyRuleset {
  return typeof value === 'object' && value !== null && 'echoRule' in value && value.echoRule === 'ruleset';
}

/** The same declaration, exported again by another file: it was evaluated twice, at one place. */
function isTwin({ name, model }: AnyRuleset, known: readonly AnyRuleset[]): boolean {
  const at = ({ file, line }: Place) => `${file}:${line}`;
  return known.some((one) => one.name === name && at(one.model.place) === at(model.place));
}

function whatItIs(value: unknown): string {
  return typeof value === 'object' && value !== null && 'definition' in value
    ? 'a field definition, for use in rulesets'
    : `no ruleset (${value === null ? 'null' : typeof value})`;
}
