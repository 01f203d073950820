import { characters } from './characters.js';
import { columns } from './columns.js';
import type { Criterion } from './context.js';
import { decisions } from './decisions.js';
import { deletions } from './deletions.js';
import { edges } from './edges.js';
import { itemRules } from './item-rules.js';
import { keys } from './keys.js';
import { lists } from './lists.js';
import { pairs } from './pairs.js';
import { patterns } from './patterns.js';
import { presence } from './presence.js';
import { records } from './records.js';
import { references } from './references.js';
import { rules } from './rules.js';
import { spellings } from './spellings.js';
import { together } from './together.js';
import { types } from './types.js';
import { uniqueness } from './uniqueness.js';
import { updates } from './updates.js';
import { whiteSpaces } from './white-space.js';
import { whole } from './whole.js';

/** The coverage criteria, the most telling first: of two equal inputs the first one's reason is kept. */
export const criteria: { readonly [name: string]: Criterion } = {
  whole,
  rules,
  decisions,
  'pairs of limits': pairs,
  presence,
  edges,
  lists,
  'entry rules': itemRules,
  records,
  patterns,
  uniqueness,
  references,
  deletions,
  updates,
  'white space': whiteSpaces,
  spellings,
  types,
  columns,
  characters,
  keys,
  together,
};
