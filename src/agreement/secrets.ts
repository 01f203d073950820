import type { Answer, Model, Verdict } from '../core/model/index.js';

const MASK = '(secret)';

/** A record without what is secret in it, for whoever reads of it: only that it is there. */
export function masked(model: Model, record: unknown): unknown {
  const secrets = new Set(
    Object.values(model.fields).flatMap(({ name, storedAs }) => (storedAs === null ? [] : [name])),
  );
  if (secrets.size === 0 || typeof record !== 'object' || record === null || Array.isArray(record)) return record;
  const entries = Object.entries(record).map(([name, value]) => {
    const isSecret = secrets.has(name) && value !== null && value !== '';
    return [name, isSecret ? MASK : value] as const;
  });
  return Object.fromEntries(entries);
}

/** A verdict or an answer without what is secret in the record that it accepts. */
export function maskedAnswer<A extends Verdict | Answer>(model: Model, answer: A): A {
  return 'accepted' in answer ? ({ ...answer, accepted: masked(model, answer.accepted) } as A) : answer;
}
