import type { Schema } from '../declare/index.js';
import { encode } from '../meaning/index.js';
import { formName, isSent, plainFields, type Row, type Wire } from '../model/index.js';

/** Records as a wire carries them, without what nobody sends. */
export function carriedRecords(model: Schema[number], rows: readonly Row[], wire: Wire): readonly Row[] {
  const sent = Object.values(model.fields).filter((field) => isSent(field));
  return rows.map((row) => {
    const own = sent
      .filter(({ name }) => Object.hasOwn(row, name))
      .map(({ name }) => [name, row[name] ?? null] as const);
    return encode(model, Object.fromEntries(own), wire);
  });
}

/** The names that a form has for records, in the order of their fields; of lists, as many as the longest one has. */
export function formColumns(model: Schema[number], records: readonly Row[]): readonly string[] {
  const names = new Set(records.flatMap((record) => Object.keys(record)));
  return plainFields(model)
    .filter((field) => isSent(field))
    .flatMap(({ path, item }) => {
      const name = formName(path);
      if (item === null) return [name];
      return [...names]
        .filter((one) => one.startsWith(`${name}[`))
        .sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
    });
}
