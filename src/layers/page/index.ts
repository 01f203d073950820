import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import type { Browser } from 'playwright-core';
import type { Schema } from '../../core/declare/index.js';
import { decide, read } from '../../core/meaning/index.js';
import { ProblemError, problems } from '../../core/messages/index.js';
import { type Answer, type Case, enforcers, pointerToKey, type Row } from '../../core/model/index.js';
import { addressOf } from '../addresses.js';
import { overExisting } from '../existing-keys.js';
import { assertFieldNames, type Translation, translations } from '../field-names.js';
import { recordIn } from '../http/answers.js';
import { judgedBy, type Layer, modelOf, type OpenLayer, type Surroundings } from '../layer.js';
import { firstLine, openBrowser } from './browser.js';
import type { PageOptions } from './options.js';
import { type Did, Tab } from './tab.js';
import { NotTypeable } from './typist.js';

export type { PageOptions } from './options.js';

const TIMEOUT = 2_000;
const TABS = 2;

/**
 * A form in a real browser: cases are typed into it as a person does, and it is sent. What it sends stays in the browser;
 * what can't be typed is not applicable. The package playwright-core and a Chromium are needed.
 */
export function pageLayer(options: PageOptions): Layer {
  return {
    kind: 'page',
    ...judgedBy(options, false),
    // Without script, its attributes are all that it has.
    target: options.script === false ? 'html' : 'javascript',
    rulesets: Object.keys(options.pages),
    can: {
      store: false,
      allViolations: true,
      wires: ['form'],
      does: ['insert'],
      on: ['server', 'client'],
      convertsFirst: false,
    },
    open: (surroundings) => open(options, surroundings),
  };
}

/** @throws ProblemError `layer_unreachable` where a page or the browser is not there */
async function open(options: PageOptions, { schema, folder }: Surroundings): Promise<OpenLayer> {
  const addresses = new Map(
    Object.entries(options.pages).map(([ruleset, page]) => [ruleset, addressIn(addressOf(page), folder)]),
  );
  assertFieldNames(schema, options.names, 'page');
  const { browser, close } = await openBrowser(options.browser);
  const around = { browser, addresses, options, schema, translation: translations(schema, options.names) };
  const layer = { answer: (cases: readonly Case[]) => answerAll(cases, around), close };
  try {
    return overExisting(layer, schema, options.existing, 'page');
  } catch (error) {
    await close();
    throw error;
  }
}

function addressIn(page: string, folder: string): string {
  if (/^https?:/.test(page)) return page;
  const file = resolve(folder, page);
  if (!existsSync(file)) throw new ProblemError([problems.fileMissing(null, 'The layer', file)]);
  return pathToFileURL(file).href;
}

interface Surrounding {
  readonly browser: Browser;
  readonly addresses: ReadonlyMap<string, string>;
  readonly options: PageOptions;
  readonly schema: Schema;
  readonly translation: (ruleset: string) => Translation;
}

/** Several tabs at once, each with the cases of one ruleset at one time of the clock. */
async function* answerAll(cases: readonly Case[], around: Surrounding): AsyncIterable<readonly [Case, Answer]> {
  const groups = new Map<string, Case[]>();
  for (const one of cases) {
    const key = JSON.stringify([one.ruleset, one.clock]);
    groups.set(key, [...(groups.get(key) ?? []), one]);
  }
  for (const group of groups.values()) {
    const waiting = [...group];
    const answered: (readonly [Case, Answer])[] = [];
    let told: () => void = () => {};
    const tabs = Array.from({ length: Math.min(around.options.atOnce ?? TABS, group.length) }, async () => {
      const [first] = group;
      if (first === undefined) return;
      const tab = await tabFor(first, around);
      try {
        for (let one = waiting.shift(); one !== undefined; one = waiting.shift()) {
          answered.push([one, await answerOne(tab, one, around)]);
          told();
        }
      } finally {
        await tab.close();
      }
    });
    const all = Promise.all(tabs).finally(() => told());
    let isDone = false;
    const done = all.then(() => {
      isDone = true;
    });
    while (!isDone || answered.length > 0) {
      const next = answered.shift();
      if (next !== undefined) yield next;
      else
        await Promise.race([
          done,
          new Promise<void>((resolved) => {
            told = resolved;
          }),
        ]);
    }
  }
}

async function tabFor(
  { ruleset, clock }: Case,
  { browser, addresses, options, translation }: Surrounding,
): Promise<Tab> {
  const address = addresses.get(ruleset) ?? '';
  const { form = 'form', message = null, timeout = TIMEOUT, script = true } = options;
  try {
    return await Tab.open(browser, {
      address,
      clock,
      looking: { form, message },
      timeout,
      script,
      translation: translation(ruleset),
    });
  } catch (error) {
    throw new ProblemError([problems.layerUnreachable(null, 'page', `${address}: ${firstLine(error)}`)]);
  }
}

async function answerOne(tab: Tab, one: Case, around: Surrounding): Promise<Answer> {
  const { schema } = around;
  const model = modelOf(one.ruleset, schema);
  const keys = Object.fromEntries(
    schema.map(({ ruleset, key }) => [
      ruleset,
      one.before.filter((stored) => stored.ruleset === ruleset).map(({ row }) => String(row[key ?? ''])),
    ]),
  );
  try {
    await tab.type(one, model, keys);
    let did = await tab.submit();
    if ('nothing' in did && tab.hasSent) {
      // Having sent another record before, the page may be done: a fresh one is asked.
      await tab.reload();
      await tab.type(one, model, keys);
      did = await tab.submit();
    }
    return answerFrom(did, one, around);
  } catch (error) {
    if (error instanceof NotTypeable) return { notApplicable: error.message };
    return { breakdown: firstLine(error) };
  }
}

function answerFrom(did: Did, one: Case, { schema, translation }: Surrounding): Answer {
  const translate = translation(one.ruleset);
  const model = modelOf(one.ruleset, schema);
  if ('nothing' in did) return { breakdown: did.nothing };
  if ('faults' in did) {
    const { clock, input } = one;
    // A page may have rules that no server has.
    const more =
      one.on === 'server' &&
      'accepted' in one.expected &&
      'refused' in decide(model, input, 'form', { clock, enforcers });
    if (more) return { notApplicable: 'the page asks for more than the server' };
    return { refused: did.faults.map(({ name, message }) => ({ pointer: pointerTo(name), rule: null, message })) };
  }
  const { posted } = did;
  if ('json' in posted) return { accepted: recordIn(translate.fromJson(posted.json), model) ?? {} };
  const entries: { readonly [name: string]: unknown } = translate.fromForm(posted.entries);
  return { accepted: read(model, entries, 'form', one.on === 'client' ? enforcers : undefined) as Row };
}

/** `shelf[bay]` is at `/shelf/bay`. */
function pointerTo(name: string): string {
  return name
    .split(/[.[\]]+/)
    .filter((step) => step !== '')
    .map(pointerToKey)
    .join('');
}
