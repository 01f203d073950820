import { type FormState, formHtml, type Options } from 'echo-rule/server';
import { Html, html } from './html.ts';
import { type Part, parts } from './studio.ts';

/** Where the page's script and style are, as the build has named them. */
export interface Assets {
  readonly script: string;
  readonly styles: readonly string[];
}

/** Every page: its head, the way to the other parts, and what it is about. */
function page(assets: Assets, title: string, current: Part | null, body: Html): string {
  return html`<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta name="color-scheme" content="light dark">
<title>${title} · Kiln bookings</title>
<link rel="icon" href="/icon.svg">
${assets.styles.map((style) => html`<link rel="stylesheet" href="${style}">`)}
<script type="module" src="${assets.script}"></script>
</head>
<body>
<a class="skip" href="#content">Skip to the content</a>
<header class="top">
<a class="mark" href="/firings"><img src="/icon.svg" alt="">Kiln bookings</a>
<nav aria-label="Parts of the studio">
${parts.map((part) => html`<a href="${part.path}"${part === current ? new Html(' aria-current="page"') : ''}>${part.title}</a>`)}
</nav>
</header>
<main id="content" tabindex="-1">
${body}
</main>
</body>
</html>
`.text;
}

type Record = { readonly [field: string]: unknown };
type Called = { readonly [ruleset: string]: Options };

export function listPage(
  assets: Assets,
  part: Part,
  records: readonly Record[],
  called: Called,
  done: string | null,
): string {
  const head = part.columns.map((column) => html`<th scope="col">${part.words[column]?.label ?? column}</th>`);
  const row = (record: Record) =>
    html`<tr>${part.columns.map((column, at) => cell(part, record, column, called, at === 0))}</tr>\n`;
  const table = html`<div class="table"><table>
<thead><tr>${head}</tr></thead>
<tbody>
${records.map(row)}</tbody>
</table></div>`;
  return page(
    assets,
    part.title,
    part,
    html`<div class="title"><h1>${part.title}</h1><a class="button" href="${part.path}/new">New ${part.one}</a></div>
${done === null ? '' : html`<p role="status" class="done">${done}</p>`}
${records.length === 0 ? html`<p>Nothing is here yet.</p>` : table}`,
  );
}

function cell(part: Part, record: Record, column: string, called: Called, isKey: boolean): Html {
  const { label = column } = part.words[column] ?? {};
  const text = textOf(part, record[column], column, called);
  const shown = isKey ? html`<a href="${part.path}/${encodeURIComponent(String(record[column]))}">${text}</a>` : text;
  return isKey
    ? html`<th scope="row" data-label="${label}">${shown}</th>`
    : html`<td data-label="${label}">${shown}</td>`;
}

/** A value as people read it: references and choices by what they are called. */
function textOf(part: Part, value: unknown, column: string, called: Called): string {
  if (value === null || value === undefined) return '–';
  if (typeof value === 'boolean') return value ? 'Yes' : 'No';
  const names = called[column] ?? part.words[column]?.choices ?? [];
  return names.find(([key]) => key === value)?.[1] ?? String(value);
}

/** What a form page is about: a new record, or a stored one by its key. */
export interface Editing {
  readonly key: string | null;
  readonly state: FormState;
  /** What is wrong with the request itself. */
  readonly problem: string | null;
}

export function formPage(assets: Assets, part: Part, { key, state, problem }: Editing): string {
  const title = key === null ? `New ${part.one}` : `Change ${part.one} ${key}`;
  const action = key === null ? part.path : `${part.path}/${encodeURIComponent(key)}`;
  const button = key === null ? part.begin : 'Save changes';
  const form = new Html(formHtml(part.ruleset, { ...state, action, button }));
  const remove =
    key === null
      ? ''
      : html`<form method="post" action="${action}/delete" class="remove"><button type="submit">Delete this ${part.one}</button></form>`;
  return page(
    assets,
    title,
    part,
    html`<div class="title"><h1>${title}</h1></div>
${problem === null ? '' : html`<p role="alert" class="fault">${problem}</p>`}
<div class="sheet">
<div class="form">
${form}${remove}
</div>
<aside aria-label="The record so far" class="live" hidden>
<h2>The record so far</h2>
<p class="state"></p>
<pre tabindex="0" aria-label="The record as it will be stored"></pre>
</aside>
</div>`,
  );
}

export function wordsPage(assets: Assets, title: string, words: string, back: string): string {
  return page(
    assets,
    title,
    null,
    html`<div class="title"><h1>${title}</h1></div>
<p>${words}</p>
<p><a href="${back}">Back to the list</a></p>`,
  );
}
