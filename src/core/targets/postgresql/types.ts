import { firstDate, type KnownField, lastDate, type PerKind, valueField } from '../../kinds/index.js';
import type { Fidelity } from '../../model/index.js';
import {
  altering,
  binary,
  type ColumnType,
  call,
  column,
  rangeOf,
  safeInteger,
  shownDay,
  shownDigits,
  shownNumber,
} from '../sql/index.js';

const exact: Fidelity = { is: 'exact' };
const textType = 'text COLLATE "C"';

/** The smallest integer type that holds the range; a safe integer needs bigint. */
function integerType({ least, most }: ReturnType<typeof rangeOf>): string {
  if (least >= -32768 && most <= 32767) return 'smallint';
  return least >= -2147483648 && most <= 2147483647 ? 'integer' : 'bigint';
}

/** The column types that people of PostgreSQL expect; where one reads more spellings than the rule, the ledger says so. */
const types = {
  text: (field) => ({
    type: textType,
    // Drivers send a lone surrogate as U+FFFD; the engine itself refuses U+0000.
    check: binary(call('strpos', column(field.column), { text: '\ufffd' }), '=', { number: 0 }),
    fidelity: altering('the driver sends a number as its digits, and they are stored as text', shownNumber(field)),
  }),
  integer: (field) => ({
    type: integerType(rangeOf(field)),
    check: safeInteger(field),
    fidelity: altering('the type reads other spellings of a number and stores the plain one', shownDigits(field)),
  }),
  choice: () => ({ type: textType, check: null, fidelity: exact }),
  date: (field) => ({
    type: 'date',
    check: { between: column(field.column), low: { text: firstDate }, high: { text: lastDate } },
    fidelity: altering('the type reads other spellings of a day, and words such as today', shownDay(field)),
  }),
  boolean: () => ({
    type: 'boolean',
    check: null,
    fidelity: altering('the type reads yes, on, t and 1 as true', 'yes'),
  }),
  reference: (field) => columnType(valueField(field)),
} satisfies PerKind<(field: KnownField) => ColumnType>;

export function columnType(field: KnownField): ColumnType {
  return types[field.kind](field);
}
