import { firstDate, type KnownField, type PerKind, valueField } from '../../kinds/index.js';
import type { Fidelity } from '../../model/index.js';
import {
  altering,
  binary,
  type ColumnType,
  call,
  column,
  type Sql,
  safeInteger,
  shownDigits,
  shownNumber,
} from '../sql/index.js';

const exact: Fidelity = { is: 'exact' };
const digit = '[0-9]';

/** One U+0000 disarms length(), GLOB and triggers; only instr() sees past it. Lone surrogates are read as U+FFFD. */
function undamaged(of: Sql): Sql {
  const anywhere: Sql = { joined: [{ text: '*' }, call('char', { number: 0xfffd }), { text: '*' }] };
  return { all: [withoutNull(of), binary(of, 'NOT GLOB', anywhere)] };
}

function withoutNull(of: Sql): Sql {
  return binary(call('instr', of, call('char', { number: 0 })), '=', { number: 0 });
}

/** Column types of STRICT tables. */
const types = {
  text: (field) => ({
    type: 'TEXT',
    check: undamaged(column(field.column)),
    fidelity: altering('a number is stored as its digits', shownNumber(field)),
  }),
  integer: (field) => ({
    // As a primary key, INTEGER would be another name of the row number, and count up where NULL is sent; INT is not.
    type: 'INT',
    check: safeInteger(field),
    fidelity: altering('text that reads as a whole number is stored as that number', shownDigits(field)),
  }),
  choice: () => ({ type: 'TEXT', check: null, fidelity: exact }),
  date: (field) => {
    const of = column(field.column);
    return {
      type: 'TEXT',
      check: {
        all: [
          binary(of, 'GLOB', { text: `${digit.repeat(4)}-${digit.repeat(2)}-${digit.repeat(2)}` }),
          // date() gives the very text back for real days only: it rolls 30 February over.
          binary(call('date', of, { text: '+0 days' }), 'IS', of),
          binary(of, '>=', { text: firstDate }),
          withoutNull(of),
        ],
      },
      fidelity: exact,
    };
  },
  boolean: (field) => ({
    type: 'INTEGER',
    check: { member: column(field.column), among: [{ number: 0 }, { number: 1 }] },
    fidelity: altering('the text 1 is stored as the number, which is true', '1'),
  }),
  reference: (field) => columnType(valueField(field)),
} satisfies PerKind<(field: KnownField) => ColumnType>;

export function columnType(field: KnownField): ColumnType {
  return types[field.kind](field);
}
