import assert from 'node:assert/strict';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { after, before, describe, test } from 'node:test';
import { askAll, summarise } from '../../src/agreement/index.js';
import { caseSetFor, selected } from '../../src/core/cases/index.js';
import type { Case, Row } from '../../src/core/model/index.js';
import { formText, ledgerOf } from '../../src/core/targets/index.js';
import { type PageOptions, pageLayer } from '../../src/layers/index.js';
import { openBrowser } from '../fixtures/browser.js';
import { modelIn, studio } from '../fixtures/schema.js';
import { startStudio } from '../fixtures/studio.js';

/** So many of a ruleset's cases are typed, the most telling ones. */
const TYPED = 24;

function casesOf(ruleset: string, budget = TYPED): readonly Case[] {
  const fits = ({ wire, does }: Case) => wire === 'form' && does === 'insert';
  return selected([caseSetFor(modelIn(studio, ruleset), studio)], { fits, budget }).cases;
}

/** Types cases into a page, and tells who disagrees. */
async function typed(options: PageOptions, cases: readonly Case[]) {
  const layers = { page: pageLayer(options) };
  const answered = await askAll(cases, layers, { schema: studio, folder: '.', output: '.' });
  const applicable = answered.filter(({ answer }) => !('notApplicable' in answer));
  return { answered, applicable, ...summarise(answered, layers, studio, ledgerOf(studio)) };
}

describe('pages in a real browser', () => {
  let running: Awaited<ReturnType<typeof startStudio>>;
  before(async () => {
    // Installs Chromium where that is allowed, or says what was tried.
    await (await openBrowser()).close();
    running = await startStudio();
  });
  after(() => running.stop());

  for (const [ruleset, path] of [
    ['firing', 'firings'],
    ['potter', 'potters'],
  ] as const) {
    test(`the studio’s page of a new ${ruleset} answers as it should, and sends nothing to its server`, async () => {
      const cases = casesOf(ruleset);
      const earlier = running.log();
      const { mismatches, applicable } = await typed({ pages: { [ruleset]: `${running.url}/${path}/new` } }, cases);
      assert.deepEqual(mismatches, []);
      assert.ok(applicable.length > cases.length / 2, `${applicable.length} of ${cases.length} typed`);
      assert.ok(!running.log().slice(earlier.length).includes('POST'), 'no record reached the server');
    });
  }

  /** A page by hand, on a server that must be asked for nothing else. */
  async function byHand(markup: string, script = '', more: Partial<PageOptions> = {}) {
    const asked: string[] = [];
    const server = createServer((request, response) => {
      asked.push(`${request.method} ${request.url}`);
      response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' });
      response.end(`<!doctype html><title>kiln</title>${markup}<script type="module">${script}</script>`);
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/kilns/new`;
    const close = () => {
      server.closeAllConnections();
      return new Promise((resolve) => server.close(resolve));
    };
    const found = await typed({ pages: { kiln: url }, ...more }, casesOf('kiln', 40)).finally(close);
    assert.ok(
      asked.every((one) => one.startsWith('GET')),
      asked.join(),
    );
    return { ...found, rules: [...new Set(found.mismatches.map(({ kind, rule }) => `${kind} ${rule}`))].sort() };
  }

  const native = formText(modelIn(studio, 'kiln'), { options: {} });

  test('one with attributes alone is held to what attributes can say', async () => {
    const { mismatches, rules } = await byHand(native, '', { script: false });
    assert.deepEqual(rules, [], JSON.stringify(mismatches[0]));
    const loose = await byHand(native.replaceAll(' required', ''), '', { script: false });
    assert.deepEqual(loose.rules, [
      'verdict kiln.code.required',
      'verdict kiln.hottest.required',
      'verdict kiln.name.required',
    ]);
  });

  test('what a script finds is seen by aria-invalid, by what describes a control, or where the options say', async () => {
    const markup = `<form novalidate><input name="code" aria-describedby="code-says"><p id="code-says">Like K07</p>
      <input name="name"><p class="fault" data-of="name"></p><input name="hottest"><button>Add</button></form>`;
    const script = `document.forms[0].addEventListener('submit', (event) => {
      event.preventDefault();
      const { code, name, hottest } = Object.fromEntries(new FormData(event.target));
      const good = { code: /^K[0-9]{2}$/.test(code.trim()), name: /^[^\\0\\ufffd\\n\\r]{2,40}$/u.test(name.trim()), hottest: /^[1-9][0-9]*$/.test(hottest) && +hottest >= 900 && +hottest <= 1400 };
      document.getElementById('code-says').textContent = good.code ? 'Like K07' : 'Not like K07';
      document.querySelector('.fault').textContent = good.name ? '' : 'A name, please';
      document.querySelector('[name=hottest]').toggleAttribute('aria-invalid', false);
      if (!good.hottest) document.querySelector('[name=hottest]').setAttribute('aria-invalid', 'true');
      if (good.code && good.name && good.hottest) fetch('/kilns', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ code: code.trim(), name: name.trim(), hottest: +hottest }) });
    });`;
    const told = await byHand(markup, script, { message: '.fault[data-of="{name}"]' });
    assert.deepEqual(told.rules, [], JSON.stringify(told.mismatches[0]));
    const untold = await byHand(markup, script);
    assert.ok(
      untold.rules.some((one) => one.endsWith('kiln.name.required')),
      untold.rules.join(),
    );
  });

  test('one that asks its server for options once it is there gets them', async () => {
    const markup = `<form><select name="kiln"><option></option></select><button>Add</button></form>`;
    const script = `const options = await fetch('options.json').then((answer) => answer.json());
      for (const one of options) document.forms[0].elements.kiln.add(new Option(one, one));`;
    const server = createServer((request, response) => {
      const isData = request.url?.endsWith('options.json') === true;
      response.writeHead(200, { 'content-type': isData ? 'application/json' : 'text/html; charset=utf-8' });
      const page = `<!doctype html><title>firing</title>${markup}<script type="module">${script}</script>`;
      // Later than the page, and long before the last case.
      setTimeout(() => response.end(isData ? '["K12"]' : page), isData ? 20 : 0);
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/firings/new`;
    // The form has nothing but the kiln.
    const cases = casesOf('firing', 600).filter(({ constraint }) => /^firing\.(?:kiln\.|\w+$)/.test(constraint));
    const { answered } = await typed({ pages: { firing: url }, atOnce: 1 }, cases);
    server.closeAllConnections();
    await new Promise((resolve) => server.close(resolve));
    const last = answered.filter(({ case: one }) => (one.input as Row).kiln === 'K12').at(-1)?.answer;
    assert.ok(last !== undefined && 'accepted' in last && last.accepted?.kiln === 'K12', JSON.stringify(last));
  });

  for (const [does, then] of [
    ['goes on to another page late', "setTimeout(() => location.assign('?saved=K07'), 60)"],
    ['takes no second record', "document.querySelector('button').disabled = true"],
  ] as const) {
    test(`one that ${does} once it has sent a record is asked about the next one all the same`, async () => {
      const markup = native.replace('<form', '<form novalidate');
      const script = `document.forms[0].addEventListener('submit', async (event) => {
        event.preventDefault();
        const form = event.target;
        const { code, name, hottest } = Object.fromEntries(new FormData(form));
        const faults = { code: !/^K[0-9]{2}$/.test(code.trim()), name: !/^[^\\0\\ufffd\\n\\r]{2,40}$/u.test(name.trim()), hottest: !(/^[1-9][0-9]*$/.test(hottest) && +hottest >= 900 && +hottest <= 1400) };
        for (const [name, isFault] of Object.entries(faults)) form.elements[name].setAttribute('aria-invalid', isFault);
        if (Object.values(faults).includes(true)) return;
        await fetch('/kilns', { method: 'POST', body: new URLSearchParams(new FormData(form)) });
        ${then};
      });`;
      const { rules, mismatches, applicable } = await byHand(markup, script);
      assert.deepEqual(rules, [], JSON.stringify(mismatches[0]));
      assert.ok(applicable.filter(({ answer }) => 'accepted' in answer).length > 3, 'several were sent');
    });
  }

  test('one that breaks down, or neither sends nor says why not, is a breakdown', async () => {
    const throwing = `document.forms[0].addEventListener('submit', (event) => { event.preventDefault(); throw new Error('Oh'); });`;
    const { answered } = await byHand(native.replace('<form', '<form novalidate'), throwing);
    const kinds = new Set(answered.map(({ answer }) => ('breakdown' in answer ? answer.breakdown : '')));
    assert.ok(kinds.has('an error on the page: Oh'), `${[...kinds]}`);
    const silent = await byHand(
      '<form><input name="name"><button>Add</button></form>',
      'document.forms[0].onsubmit = () => false;',
    );
    const words = silent.answered.map(({ answer }) => ('breakdown' in answer ? answer.breakdown : ''));
    assert.ok(words.includes('it neither sends nor shows a fault'), words.join());
  });

  test('a page, a form or a browser that is not there is told', async () => {
    const cases = casesOf('kiln', 1);
    await assert.rejects(typed({ pages: { kiln: 'nowhere.html' } }, cases), /nowhere\.html/);
    await assert.rejects(
      typed({ pages: { kiln: 'examples/layers-by-hand/form.html' }, form: '#none', timeout: 300 }, cases),
      /page.*form\.html/s,
    );
    await assert.rejects(
      typed({ pages: { kiln: 'examples/layers-by-hand/form.html' }, browser: '/nowhere/chromium' }, cases),
      /nothing is at \/nowhere\/chromium/,
    );
  });
});
