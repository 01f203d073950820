import { stringify } from 'csv-stringify/sync';
import type { Case } from '../core/model/index.js';

const columns = [
  'id',
  'ruleset',
  'constraint',
  'criterion',
  'reason',
  'does',
  'wire',
  'on',
  'input',
  'existing',
  'before',
  'verdict',
  'value',
  'rules',
  'pointers',
] as const;

/** Cases as comma-separated values (RFC 4180), one a line behind a line of names; what is no plain text is JSON. */
export function casesCsv(cases: readonly Case[]): string {
  const rows = cases.map((one): { readonly [C in (typeof columns)[number]]: string } => {
    const { expected } = one;
    const refused = 'refused' in expected ? expected.refused : [];
    return {
      ...one,
      input: JSON.stringify(one.input),
      existing: one.existing === null ? '' : JSON.stringify(one.existing),
      before: JSON.stringify(one.before),
      verdict: 'refused' in expected ? 'refused' : 'accepted',
      value: 'accepted' in expected ? JSON.stringify(expected.accepted) : '',
      rules: refused.map(({ rule }) => rule).join(' '),
      pointers: refused.map(({ pointer }) => pointer).join(' '),
    };
  });
  return stringify(rows, { columns: [...columns], header: true, record_delimiter: 'windows' });
}
