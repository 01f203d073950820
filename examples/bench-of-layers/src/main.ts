import './bench.css';
import { answers, type Entries, type Layers } from './answers.ts';
import { postgresql, sqlite } from './engines.ts';
import { casesAbout, type Field, fieldsOf, type Rules, rulesFrom } from './rules.ts';
import { firstSource } from './source.ts';
import { cardsOf, fillRow, headOf, make, part, rowOf } from './view.ts';

const source = part<HTMLTextAreaElement>('source');
const picker = part<HTMLSelectElement>('field');
const value = part<HTMLTextAreaElement>('value');
const [loaded, problems, cards, grid, count] = ['loaded', 'problems', 'cards', 'grid', 'count'].map((id) =>
  part(id),
) as [HTMLElement, HTMLElement, HTMLElement, HTMLElement, HTMLElement];

/** What is tried now: a newer one puts an end to whatever goes on for it. */
let current = 0;
let layers: Layers;
let rules: Rules | null = null;
/** What is sent beside the field that is tried, and the rows that it refers to. */
let base: { readonly entries: Entries; readonly before: Rules['cases'][number]['before'] } = {
  entries: {},
  before: [],
};

function chosen(): Field | undefined {
  return rules === null ? undefined : fieldsOf(rules)[picker.selectedIndex];
}

async function applyRules(): Promise<void> {
  loaded.textContent = 'Compiling…';
  try {
    const made = await rulesFrom(source.value);
    await Promise.all([layers.postgresql.use(made), layers.sqlite.use(made)]);
    rules = made;
    problems.hidden = true;
    const whole = made.cases.find(({ expected }) => 'accepted' in expected);
    base = { entries: (whole?.input ?? {}) as Entries, before: whole?.before ?? [] };
    const { value: before } = picker;
    picker.replaceChildren(...fieldsOf(made).map(({ path, label }) => make('option', { value: path }, label)));
    picker.value = fieldsOf(made).some(({ path }) => path === before) ? before : (fieldsOf(made)[0]?.path ?? '');
    loaded.textContent = `${made.cases.length} cases, ${made.ledger.length} entries in the ledger.`;
    showField();
  } catch (error) {
    problems.textContent = error instanceof Error ? error.message : String(error);
    problems.hidden = false;
    loaded.textContent = 'Not used: see below. The layers keep the rules of before.';
  }
}

function showField(): void {
  const field = chosen();
  if (field === undefined) return;
  const given = base.entries[field.name];
  value.value = [given ?? ''].flat().join('');
  value.setAttribute('aria-label', field.label);
  void tryValue();
  void runCases();
}

/** Tries what is typed, whenever it changes. */
async function tryValue(): Promise<void> {
  const field = chosen();
  if (field === undefined || rules === null) return;
  const entries = { ...base.entries, [field.name]: value.value };
  const tried = value.value;
  const told = await answers(rules, layers, field, entries, base.before);
  if (tried === value.value && field.path === chosen()?.path) cards.replaceChildren(...cardsOf(told));
}

/** Gives the field's cases to every layer, row by row. */
async function runCases(): Promise<void> {
  const [field, using] = [chosen(), rules];
  if (field === undefined || using === null) return;
  current += 1;
  const own = current;
  const cases = casesAbout(using, field);
  const rows = cases.map((one) => {
    const entries = one.input as Entries;
    return rowOf(one, field.name, () => {
      base = { entries, before: one.before };
      value.value = [entries[field.name] ?? ''].flat().join('');
      value.focus();
      void tryValue();
    });
  });
  grid.replaceChildren(headOf(), make('tbody', {}, ...rows));
  const tally = { yes: 0, known: 0, no: 0 };
  for (const [index, one] of cases.entries()) {
    const told = await answers(using, layers, field, one.input as Entries, one.before);
    if (own !== current) return;
    fillRow(rows[index] as HTMLTableRowElement, told);
    for (const { agrees } of Object.values(told)) tally[agrees] += 1;
    count.textContent = `${index + 1} of ${cases.length} cases: ${tally.yes} answers agree, ${tally.known} differ as the ledger tells, ${tally.no} disagree.`;
  }
}

source.value = firstSource;
cards.replaceChildren(...cardsOf(null));
loaded.textContent = 'Starting PostgreSQL and SQLite in this page…';
part('use').addEventListener('click', () => void applyRules());
source.addEventListener('keydown', (event) => {
  if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) void applyRules();
});
picker.addEventListener('change', showField);
value.addEventListener('input', () => void tryValue());
const [first, second] = await Promise.all([postgresql(), sqlite()]);
layers = { postgresql: first, sqlite: second };
await applyRules();
// A value that tells layers apart: a column of whole numbers reads it as 7.
picker.value = 'pieces';
showField();
value.value = '007';
await tryValue();
document.documentElement.dataset.ready = '';
