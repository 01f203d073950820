import type { Schema } from '../../declare/index.js';
import type { Pattern } from '../../model/index.js';
import { constraintName, storedFields } from '../../targets/index.js';
import type { CodeEdit, CodeMistake } from '../mistake.js';

/** Texts with characters of two UTF-16 units; with white space that ASCII lacks; damaged ones. */
export const astral: Pattern = { source: '[\\s\\S]*[\\u{10000}-\\u{10FFFF}][\\s\\S]*', flags: 'u' };
export const multiByte: Pattern = { source: '[\\s\\S]*[^\\x00-\\x7F][\\s\\S]*', flags: 'u' };

/** A piece of the text replaced, wherever it stands, as one mistake. */
export function everywhere(
  find: string | RegExp,
  instead: string,
  words: string,
  matters: Pattern | null = null,
): CodeMistake {
  return {
    matters,
    edits(text) {
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
          const changed = text.replace(lineOf(column), '$1');
          const constraint = `${model.ruleset}.${path}.required`;
          return changed === text ? [] : [{ text: changed, words: 'the column takes NULL', constraint }];
        }),
  };
}

/** The constraint that a line of SQL names. */
function constraintIn(line: string, { constraints }: Schema[number]): string | undefined {
  const name = /CONSTRAINT [`"]?(\w+)[`"]?/.exec(line)?.[1];
  return constraints.find(({ id }) => constraintName(id) === name)?.id;
}
