import type { CaseStatements } from '../../agreement/index.js';

/** How the script of an engine checks what comes of a case. */
export interface Checking {
  /** How a client is to run it. */
  readonly advice: string;
  readonly begin: string;
  /** The statements of one case, the last of which answers with its line. */
  block(one: CaseStatements, number: number, quote: (text: string) => string): string;
  end(cases: number): string;
}

/** The line of a case that came out as expected, or did not. */
export function lineOf({ case: one }: CaseStatements, number: number, isOk: boolean): string {
  return `${isOk ? 'ok' : 'not ok'} ${number} - ${one.id}`;
}
