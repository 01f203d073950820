import { stringify } from 'csv-stringify/sync';

/** Records as comma-separated values (RFC 4180), one a line behind a line of names. */
export function recordsCsv(
  records: readonly { readonly [name: string]: unknown }[],
  columns: readonly string[],
): string {
  return stringify([...records], { columns: [...columns], header: true, record_delimiter: 'windows' });
}
