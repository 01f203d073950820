import type { CodeEdit, CodeMistake, CodeMistakes } from '../mistake.js';
import { astral, eachLine, everywhere } from './edit.js';

/** Each list without its empty option: the first choice is sent unasked. */
const firstChoiceSent: CodeMistake = {
  matters: null,
  edits: (text) =>
    [...text.matchAll(/(?<=<select id="[^"]*" name="[^"[]+"[^>]*>\s*)<option value=""><\/option>(?=\s*<option)/g)].map(
      ({ index, 0: found }): CodeEdit => ({
        text: text.slice(0, index) + text.slice(index + found.length),
        words: 'the first choice is sent unasked',
      }),
    ),
};

export const html: CodeMistakes = {
  'first choice sent unasked': firstChoiceSent,
  'number control': eachLine(
    /( name="[^"[]+") type="text" inputmode="numeric"((?: required)?) pattern="[^"]*"/,
    '$1 type="number"$2',
    'a number control takes other spellings, and knows no limits',
  ),
  'longest in UTF-16 units': {
    matters: astral,
    edits: (text, model) =>
      Object.values(model.fields).flatMap(({ name, facets }): readonly CodeEdit[] => {
        if (typeof facets.maxLength !== 'number') return [];
        const find = new RegExp(`(<(?:input|textarea) id="[^"]*" name="${name}")`);
        const changed = text.replace(find, `$1 maxlength="${facets.maxLength}"`);
        const constraint = `${model.ruleset}.${name}.maxLength`;
        return changed === text ? [] : [{ text: changed, words: `${name} is held to UTF-16 units`, constraint }];
      }),
  },
  'white space not expected': eachLine(/ pattern="\\s\*([^"]*)\\s\*"/, ' pattern="$1"', 'outer white space is refused'),
  'checks left out': everywhere('<form ', '<form novalidate ', 'nothing is checked before sending'),
};
