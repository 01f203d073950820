import type { Case } from 'echo-rule/compile';
import { type Answer, type LayerName, layerNames, shown, titles } from './answers.ts';

type Child = Node | string;

/** An element with attributes and children; text is text. */
export function make(
  tag: string,
  attributes: { readonly [name: string]: string },
  ...children: readonly Child[]
): HTMLElement {
  const element = document.createElement(tag);
  for (const [name, value] of Object.entries(attributes)) element.setAttribute(name, value);
  element.append(...children);
  return element;
}

/** The element of the page with this id. */
export function part<E extends HTMLElement>(id: string): E {
  return document.getElementById(id) as E;
}

const marks: { readonly [S in Answer['says']]: string } = { accepts: '✓', refuses: '✗', nothing: '–' };
const asWord: { readonly [S in Answer['says']]: string } = {
  accepts: 'accepts',
  refuses: 'refuses',
  nothing: 'can’t say',
};
const remarks: { readonly [A in Answer['agrees']]: string } = {
  yes: '',
  known: 'The ledger tells of this.',
  no: 'This is not what the rules say.',
};

export function cardsOf(answers: { readonly [L in LayerName]: Answer } | null): readonly HTMLElement[] {
  return layerNames.map((name) => {
    const answer = answers?.[name];
    if (answer === undefined)
      return make('article', { class: 'card' }, make('h3', {}, titles[name]), make('p', {}, '…'));
    const { says, words, agrees } = answer;
    const remark = remarks[agrees] === '' ? [] : [make('p', { class: 'remark' }, remarks[agrees])];
    return make(
      'article',
      { class: 'card', 'data-says': says, 'data-agrees': agrees },
      make('h3', {}, titles[name]),
      make('p', { class: 'verdict' }, make('span', { 'aria-hidden': 'true' }, marks[says]), ` ${asWord[says]}`),
      make('p', {}, words),
      ...remark,
    );
  });
}

export function headOf(): HTMLElement {
  const columns = ['Typed', 'Why', 'Rules', ...layerNames.map((name) => titles[name])];
  return make('thead', {}, make('tr', {}, ...columns.map((name) => make('th', { scope: 'col' }, name))));
}

/** A row for a case, its layers' cells yet to be filled. */
export function rowOf(one: Case, name: string, use: () => void): HTMLTableRowElement {
  const given = (one.input as { readonly [name: string]: unknown })[name];
  const text = given === undefined ? 'nothing' : shown(given);
  const button = make(
    'button',
    { type: 'button' },
    text.length > 40 ? `${text.slice(0, 24)}… (${String(given).length})` : text,
  );
  button.addEventListener('click', use);
  const isAccepted = 'accepted' in one.expected;
  return make(
    'tr',
    {},
    make('th', { scope: 'row' }, button),
    make('td', {}, one.reason),
    cell(
      isAccepted ? 'accepts' : 'refuses',
      'yes',
      isAccepted ? '' : one.expected.refused.map(({ rule }) => rule).join(', '),
    ),
    ...layerNames.map(() => make('td', {}, '…')),
  ) as HTMLTableRowElement;
}

export function fillRow(row: HTMLTableRowElement, answers: { readonly [L in LayerName]: Answer }): void {
  layerNames.forEach((name, index) => {
    const { says, agrees, words } = answers[name];
    row.cells[index + 3]?.replaceWith(cell(says, agrees, words));
  });
}

function cell(says: Answer['says'], agrees: Answer['agrees'], words: string): HTMLElement {
  return make(
    'td',
    { 'data-says': says, 'data-agrees': agrees, title: words },
    make('span', { 'aria-hidden': 'true' }, agrees === 'known' ? '~' : marks[says]),
    make('span', { class: 'spoken' }, `${asWord[says]}${agrees === 'yes' ? '' : `, ${remarks[agrees]}`}`),
  );
}
