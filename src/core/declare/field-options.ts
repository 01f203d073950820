import type { Enforcer, Storage } from '../model/index.js';

/** The options that decide a field's traits, as type parameters: inferred from what is written. */
export type Optional = boolean;
export type Default = unknown;
export type In = readonly Enforcer[];

export type Traits<O extends Optional, D extends Default, G, E extends In> =
  | (O extends true ? 'optional' : never)
  | ([D] extends [undefined] ? never : 'defaulted')
  | ([G] extends [undefined] ? never : 'generated')
  | (E extends readonly ['database'] ? 'stored' : never);

/** The names of the rules that fields have of their own. */
export type FacetName =
  | 'required'
  | 'type'
  | 'canonical'
  | 'lines'
  | 'format'
  | 'charset'
  | 'minLength'
  | 'maxLength'
  | 'pattern'
  | 'min'
  | 'max'
  | 'step'
  | 'precision'
  | 'enumeration'
  | 'must'
  | 'minItems'
  | 'maxItems'
  | 'distinct'
  | 'reference'
  | 'unique';

/** What every kind takes. A field is required unless `optional` is true. */
export interface CommonOptions<O extends Optional, E extends In> {
  readonly optional?: O;
  /** The name that people read; made from the field's name if not given. */
  readonly label?: string;
  /** A word of help beside the control. */
  readonly hint?: string;
  /** The column's name; the field's name in snake case if not given. */
  readonly column?: string;
  /** Where the field is: everywhere unless told. Without 'database' it has no column, with that alone no control. */
  readonly enforcedIn?: E;
  /** The type that people of an engine expect (`natural`, unless told), or one that alters nothing (`strict`). */
  readonly storage?: Storage;
  /** Words of your own by facet, with `{label}` and `{limit}`: `{ pattern: '{label} looks like AB-1234.' }`. */
  readonly messages?: { readonly [F in FacetName]?: string };
}

export interface ValueOptions<O extends Optional, D, G, E extends In> extends CommonOptions<O, E> {
  /** Fills a missing key of a whole new record; null and blank stay absent. */
  readonly default?: D;
  /** Who fills the field, which nobody sends then; `derived` ones are worked out under the ruleset's `derived`. */
  readonly generated?: G;
}

/** What the kinds of text share. Lengths count code points of the canonical value. */
export interface TextualOptions<O extends Optional, D, G, E extends In> extends ValueOptions<O, D, G, E> {
  readonly minLength?: number;
  readonly maxLength?: number;
  /** Held against the whole value, read under flag u (v if the literal has it). */
  readonly pattern?: RegExp;
  /** Outer white space is taken off unless false. */
  readonly trim?: boolean;
  /** Inner runs of white space become one space. */
  readonly collapse?: boolean;
  /** A–Z or a–z are put into this case. */
  readonly case?: 'lower' | 'upper';
  /** Unicode's normal form C. */
  readonly unicode?: 'NFC';
  /** Which characters there may be: U+0001 to U+007F, U+00FF or U+FFFF. */
  readonly charset?: 'ascii' | 'latin-1' | 'bmp';
}

export interface TextOptions<O extends Optional, D, G, E extends In> extends TextualOptions<O, D, G, E> {
  /** One line unless `many`. */
  readonly lines?: 'one' | 'many';
  /** Checked as typed, stored in another form: the field that holds it, and the server's function that makes it. */
  readonly secret?: { readonly storedAs: string; readonly by: (typed: string) => string | Promise<string> };
}

export interface UrlOptions<O extends Optional, D, G, E extends In> extends TextualOptions<O, D, G, E> {
  /** http and https unless told. */
  readonly schemes?: readonly string[];
}

export interface IpOptions<O extends Optional, D, G, E extends In> extends ValueOptions<O, D, G, E> {
  /** Either unless told. */
  readonly version?: 4 | 6;
}

export interface IntegerOptions<O extends Optional, D, G, E extends In> extends ValueOptions<O, D, G, E> {
  readonly min?: number;
  readonly max?: number;
  /** Whole multiples only, counted from zero. */
  readonly step?: number;
}

export interface DecimalOptions<P extends number, O extends Optional, D, G, E extends In>
  extends ValueOptions<O, D, G, E> {
  /** The most digits in all. Up to 15 a value is a number, above it decimal text. */
  readonly precision: P;
  /** The most digits after the point; more are refused, never rounded. */
  readonly scale: number;
  readonly min?: number | string;
  readonly max?: number | string;
  /** Whole multiples only, counted from zero. */
  readonly step?: number | string;
}

export interface BooleanOptions<O extends Optional, D, G, E extends In> extends ValueOptions<O, D, G, E> {
  /** Must be ticked: only true will do. */
  readonly must?: true;
}

/** ISO 8601 spellings: `2026-03-02`, `09:30:00`, `2026-03-02T09:30:00`, and with `Z` for an instant. */
export interface DateOptions<O extends Optional, D, G, E extends In> extends ValueOptions<O, D, G, E> {
  readonly min?: string;
  readonly max?: string;
}

export interface TimeOptions<O extends Optional, D, G, E extends In> extends DateOptions<O, D, G, E> {
  /** Digits of a second's fraction, 0 unless told, 6 at most. */
  readonly fraction?: number;
}

export interface TimeOfDayOptions<O extends Optional, D, G, E extends In> extends TimeOptions<O, D, G, E> {
  /** `none`: a time is `HH:MM` on every wire, and one with seconds is refused. */
  readonly seconds?: 'none';
  /** Whole multiples only, counted from midnight: every quarter of an hour is `00:15`. */
  readonly step?: string;
}

export interface ChoiceOptions<
  Code,
  Ordered extends boolean,
  O extends Optional,
  D extends Code | undefined,
  G,
  E extends In,
> extends ValueOptions<O, D, G, E> {
  /** The declared order is the trade's: codes can be compared. */
  readonly ordered?: Ordered;
  /** A column of text unless told; an `enum` where the engine has such types. */
  readonly keptAs?: 'text' | 'enum';
}

export interface ReferenceOptions<O extends Optional, E extends In> extends CommonOptions<O, E> {
  /** What becomes of this record when the other is deleted: it refuses the deletion unless told. */
  readonly onDelete?: 'refuse' | 'cascade' | 'clear';
}

export interface ListOptions<E extends In> extends Omit<CommonOptions<false, E>, 'optional'> {
  readonly minItems?: number;
  readonly maxItems?: number;
  /** No two items alike: the items themselves, or one field of theirs. A list of references has this unless `false`. */
  readonly distinct?: boolean | string;
  /** A table of its own, a row an item, unless told; or a column of JSON. */
  readonly keptAs?: 'table' | 'json';
  /** The field that tells items apart: an item sent with a stored one's key is that item, changed. */
  readonly key?: string;
}

export interface RecordOptions<O extends Optional, E extends In> extends CommonOptions<O, E> {
  /** Columns of the table that it is in, unless told; or a table of its own. */
  readonly keptAs?: 'columns' | 'table';
}
