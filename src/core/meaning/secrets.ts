import type { Answer, Model, Verdict } from '../model/index.js';

const MASK = '(secret)';

/** A record without what is secret in it, for whoever reads of it: only that it is there. */
export function masked(model: Model, record: unknown): unknown {
  const secrets = new Set(Object.values(model.fields).flatMap(({ name, concealed }) => (concealed ? [name] : [])));
  if (secrets.size === 0 || typeof record !== 'object' || record === null || Array.isArray(record)) return record;
  const entries = Object.entries(record).map(([name, value]) => {
    const isSecret = secrets.has(name) && value !== null && value !== '';
    return [name, isSecret ? MASK : value] as const;
  });
  return Object.fromEntries(entries);
}

/**
 * What was sent, for a log: without what is secret in it, and without the values of keys that nobody declared, which may be
 * anything.
 */
export function loggable(model: Model, input: unknown): unknown {
  if (typeof input !== 'object' || input === null || Array.isArray(input)) return null;
  const known = Object.entries(input).map(([name, value]) => {
    const [top = ''] = name.split(/[.[]/);
    const field = Object.hasOwn(model.fields, top) ? model.fields[top] : undefined;
    if (field === undefined) return [name, '(not declared)'] as const;
    return [name, field.concealed ? MASK : value] as const;
  });
  return Object.fromEntries(known);
}

/** The secret texts in what was sent, which no other text may show. */
export function secretsIn(model: Model, input: unknown): readonly string[] {
  if (typeof input !== 'object' || input === null) return [];
  return Object.entries(input).flatMap(([name, value]) => {
    const field = Object.hasOwn(model.fields, name) ? model.fields[name] : undefined;
    return field === undefined || !field.concealed
      ? []
      : [value].flat().filter((one): one is string => typeof one === 'string' && one !== '');
  });
}

/** A verdict or an answer without what is secret in the record that it accepts. */
export function maskedAnswer<A extends Verdict | Answer>(model: Model, answer: A): A {
  return 'accepted' in answer ? ({ ...answer, accepted: masked(model, answer.accepted) } as A) : answer;
}
