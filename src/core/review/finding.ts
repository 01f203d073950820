import type { Path, Place, Value } from '../model/index.js';
import type { FindingCode, Severity } from './catalogue.js';

/** A rule that a finding is about: where it was declared, and what it says in a few words. */
export interface RuleSaid {
  readonly id: string;
  readonly place: Place;
  readonly says: string;
}

/** A value that shows a finding: of one field, or a record, as far as it matters. */
export interface Example {
  readonly words: string;
  readonly value: Value;
}

/** Something that was found in a declaration, with its proof and the way to mend it. */
export interface Finding {
  readonly code: FindingCode;
  readonly severity: Severity;
  readonly ruleset: string;
  /** The field that it is about; '' where it is the record. */
  readonly field: Path;
  readonly place: Place;
  /** What was found, in one sentence. */
  readonly message: string;
  /** The rules that take part: of a contradiction, the smallest set. */
  readonly rules: readonly RuleSaid[];
  /** Why it is so, in one sentence. */
  readonly proof: string;
  readonly examples: readonly Example[];
  readonly mend: string;
}
