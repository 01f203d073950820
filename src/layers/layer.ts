import type { Schema } from '../core/declare/index.js';
import { decide } from '../core/meaning/index.js';
import type { Answer, Case, Operation, Row, Tolerance, Wire } from '../core/model/index.js';
import type { TargetName } from '../core/targets/index.js';

/** Where a layer finds what it is made from. All paths of its options are relative to `folder`. */
export interface Surroundings {
  readonly schema: Schema;
  /** The folder of the configuration. */
  readonly folder: string;
  /** The folder of the made files. */
  readonly output: string;
}

export interface OpenLayer {
  /** Answers each case, in any order. What goes wrong with one is that case's answer, never an exception. */
  answer(cases: readonly Case[]): AsyncIterable<readonly [Case, Answer]>;
  /** The records of a ruleset that are stored there, or so many of them; a layer that keeps none, or can't be read, has no such method. */
  stored?(ruleset: string, most?: number): Promise<readonly Row[]>;
  close(): Promise<void>;
}

/** What every layer's options say of how it is judged. */
export interface JudgedOptions {
  /**
   * It was compiled from the rules, and differs only where the ledger documents it. Layers that are named by their files or
   * addresses are written by hand unless this says otherwise.
   */
  readonly compiled?: boolean;
  /** What it may do otherwise than declared without being reported: counted apart. */
  readonly tolerates?: readonly Tolerance[];
}

/** How a layer is judged by its options. */
export function judgedBy(
  { compiled, tolerates = [] }: JudgedOptions,
  isCompiled: boolean,
): Required<Pick<Layer, 'compiled' | 'tolerates'>> {
  return { compiled: compiled ?? isCompiled, tolerates };
}

/** Something that takes a record and accepts or refuses it. */
export interface Layer {
  readonly kind: string;
  /** The target whose ledger speaks for what this layer can hold. */
  readonly target: TargetName;
  /** The rulesets that it knows; null where it knows all. */
  readonly rulesets: readonly string[] | null;
  readonly can: {
    /** It knows the stored rows, and so can judge look-ups. */
    readonly store: boolean;
    /** It tells every broken rule; otherwise one of them is enough. */
    readonly allViolations: boolean;
    readonly wires: readonly Wire[];
    /** Whom it stands for: a page has what no server reads. */
    readonly on: readonly Case['on'][];
    /** What it does with a record: takes a new one, puts one in the place of a stored one, or over some of its fields. */
    readonly does: readonly Operation[];
    /** It turns values into its column's type before it checks them: any rule of a mistyped field is right blame. */
    readonly convertsFirst: boolean;
    /** It goes by its own clock: it can't be told what time a case is at. */
    readonly ownClock?: true;
  };
  /**
   * It was compiled from the rules: the ledger documents where it differs. Another layer is judged by the rules alone, but
   * for what nothing of its target can hold.
   */
  readonly compiled?: boolean;
  /** What it may do otherwise than declared. */
  readonly tolerates?: readonly Tolerance[];
  /** It may hold rows that no case knows of: records are made beside them. */
  readonly holdsRows?: boolean;
  /** @throws ProblemError where what it is made from is missing */
  open(surroundings: Surroundings): Promise<OpenLayer>;
}

/**
 * The row that a case puts before a table: its own on the row wire, otherwise what the compiled server would hand on;
 * null where it would hand on nothing. The server does not know the stored rows.
 */
export function rowFor(one: Case, schema: Schema): { readonly [name: string]: unknown } | null {
  // Of a deletion, the record that refers to the deleted row.
  if (one.does === 'delete') return one.existing;
  if (one.wire === 'row') return one.input as Row;
  const { clock, existing, does } = one;
  const how = { clock, existing, partial: does === 'patch' };
  const verdict = decide(modelOf(one.ruleset, schema), one.input, one.wire, how);
  return 'accepted' in verdict ? verdict.accepted : null;
}

export function modelOf(ruleset: string, schema: Schema): Schema[number] {
  const model = schema.find((one) => one.ruleset === ruleset);
  if (model === undefined) throw new Error(`no ruleset ${ruleset} in the schema`);
  return model;
}
