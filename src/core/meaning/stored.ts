import { type Model, type Row, storingFunction, type Value } from '../model/index.js';
import type { GivenClock } from './clock.js';
import { derive } from './derive.js';

/**
 * An accepted record as it is stored: secrets in the form, and under the field, that they are stored in; derived fields
 * worked out; what only the page and the server have left out.
 */
export async function storedRow(model: Model, row: Row, clock?: GivenClock): Promise<Row> {
  const stored: { [name: string]: Value } = {};
  for (const { name, enforcedIn, storedAs } of Object.values(model.fields)) {
    const value = Object.hasOwn(row, name) ? (row[name] ?? null) : null;
    if (storedAs !== null) {
      const by = model.functions[storingFunction(name)];
      stored[storedAs] = value === null || by === undefined ? null : ((await by(value)) as Value);
    } else if (enforcedIn.includes('database') && Object.hasOwn(row, name)) stored[name] = value;
  }
  return { ...stored, ...derive(model, row, clock) };
}
