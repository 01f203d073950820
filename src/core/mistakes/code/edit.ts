import type { Schema } from '../../declare/index.js';
import type { Pattern } from '../../model/index.js';
import { constraintName, storedFields, tablesOf } from '../../targets/index.js';
import type { CodeEdit, CodeMistake } from '../mistake.js';

/** Texts with characters of two UTF-16 units; of several bytes; with outer white space that is no space; with U+0000; with letters. */
export const astral: Pattern = { source: '[\\s\\S]*[\\u{10000}-\\u{10FFFF}][\\s\\S]*', flags: 'u' };
export const multiByte: Pattern = { source: '[\\s\\S]*[^\\x00-\\x7F][\\s\\S]*', flags: 'u' };

const ODD_SPACES = '[\\t-\\r\\u00a0\\u1680\\u2000-\\u200a\\u2028\\u2029\\u202f\\u205f\\u3000\\ufeff]';
export const oddlySpaced: Pattern = { source: `${ODD_SPACES}[\\s\\S]*|[\\s\\S]*${ODD_SPACES}`, flags: 'u' };
export const lettered: Pattern = { source: '[\\s\\S]*[A-Za-z][\\s\\S]*', flags: 'u' };
export const nullHolding: Pattern = { source: '[\\s\\S]*\\0[\\s\\S]*', flags: 'u' };

/** A piece of the text replaced, wherever it stands, as one mistake. */
export function everywhere(
  find: string | RegExp,
  instead: string,
  words: string,
  matters: Pattern | null = null,
  applies: (model: Schema[number]) => boolean = () => true,
): CodeMistake {
  return {
    matters,
    edits(text, model) {
      if (!applies(model)) return [];
      const changed = typeof find === 'string' ? text.replaceAll(find, instead) : text.replace(find, instead);
      return changed === text ? [] : [{ text: changed, words }];
    },
  };
}

/** A mistake in each line that it can be made in, each by itself; `about` names the constraint's line by a facet. */
export function eachLine(
  find: RegExp,
  instead: string,
  words: string,
  about: RegExp | null = null,
  matters: Pattern | null = null,
): CodeMistake {
  return {
    matters,
    edits(text, model) {
      const lines = text.split('\n');
      return lines.flatMap((line, at): readonly CodeEdit[] => {
        if (about !== null && !about.test(line)) return [];
        const changed = line.replace(find, instead);
        if (changed === line) return [];
        const constraint = constraintIn(line, model);
        // A line about a rule is about one of this ruleset, or of one that it refers to.
        if (constraint === undefined && /CONSTRAINT/.test(line)) return [];
        const mistaken = [...lines.slice(0, at), changed, ...lines.slice(at + 1)].join('\n');
        return [{ text: mistaken, words, ...(constraint === undefined ? {} : { constraint }) }];
      });
    },
  };
}

/** Each column that must hold something takes NULL; keys are none the less never NULL. */
export function nullable(lineOf: (column: string) => RegExp): CodeMistake {
  return {
    matters: null,
    edits: (text, model) =>
      storedFields(model)
        .filter(({ path, optional, generated }) => path !== model.key && !optional && generated === null)
        .flatMap(({ column, path }): readonly CodeEdit[] => {
          const changed = inOwnTables(text, model, (table) => table.replace(lineOf(column), '$1'));
          const constraint = `${model.ruleset}.${path}.required`;
          return changed === text ? [] : [{ text: changed, words: 'the column takes NULL', constraint }];
        }),
  };
}

/** The text with the statements that create a ruleset's own tables changed. */
export function inOwnTables(text: string, model: Schema[number], change: (table: string) => string): string {
  const names = tablesOf(model).map(({ name }) => name);
  return text.replace(/^CREATE TABLE IF NOT EXISTS [`"]?(\w+)[`"]? \([\s\S]*?^\)/gm, (table, name: string) =>
    names.includes(name) ? change(table) : table,
  );
}

/** The constraint that a line of SQL names. */
function constraintIn(line: string, { constraints }: Schema[number]): string | undefined {
  const name = /CONSTRAINT [`"]?(\w+)[`"]?/.exec(line)?.[1];
  return constraints.find(({ id }) => constraintName(id) === name)?.id;
}
