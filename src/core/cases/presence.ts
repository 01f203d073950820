import { kindOf, valueField } from '../kinds/index.js';
import { type Criterion, facetOf, rawEntry } from './context.js';
import { singleFields } from './places.js';

const blanks: readonly (readonly [text: string, words: string])[] = [
  ['   ', 'spaces only'],
  ['\t', 'a tab only'],
  ['\u00a0', 'a no-break space only'],
  ['\u3000\u2003', 'wide spaces only'],
  ['\ufeff', 'a byte order mark only'],
];

/** Every spelling of "nothing" on every wire. */
export const presence: Criterion = (context) =>
  singleFields(context.model).flatMap((field) => {
    const { path } = field;
    const required = { constraint: facetOf(context, path, 'required') };
    const canonical = { constraint: facetOf(context, path, 'canonical') };
    const typed = { constraint: facetOf(context, path, 'type') };
    const isText = kindOf(valueField(field)).blankIsAbsent;
    const empty = { reason: 'the empty text' };
    return [
      rawEntry(context, 'form', path, undefined, { ...required, reason: 'the name is missing from the form' }),
      rawEntry(context, 'form', path, '', { ...required, ...empty }),
      rawEntry(context, 'json', path, undefined, { ...required, reason: 'the key is missing' }),
      rawEntry(context, 'json', path, null, { ...required, reason: 'null' }),
      rawEntry(context, 'json', path, '', { ...(isText ? required : typed), ...empty }),
      rawEntry(context, 'row', path, null, { ...required, reason: 'NULL' }),
      rawEntry(context, 'row', path, '', { ...(isText ? canonical : typed), reason: 'the empty text instead of NULL' }),
      ...(isText ? blanks : []).flatMap(([blank, reason]) => [
        rawEntry(context, 'form', path, blank, { ...required, reason }),
        rawEntry(context, 'json', path, blank, { ...required, reason }),
        rawEntry(context, 'row', path, blank, { ...canonical, reason: `${reason} instead of NULL` }),
      ]),
    ];
  });
