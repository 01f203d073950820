import { type Case, formName, type Path } from '../../core/model/index.js';

type Input = { readonly [name: string]: unknown };

/** Texts of at most so many characters lose them one by one; longer ones a part at a time. */
const FEW = 12;

/** The same record with less in it, the boldest first: without what a rule is not about, and its own values shorter. */
export function smaller({ input, wire }: Case, subjects: readonly Path[], optional: readonly string[]): Input[] {
  if (typeof input !== 'object' || input === null || Array.isArray(input)) return [];
  const record = input as Input;
  const tops = new Set(subjects.map((path) => path.split(/[.[]/)[0] ?? path));
  const topOf = (name: string) => name.split(/[.[]/)[0] ?? name;
  const beside = Object.keys(record).filter((name) => optional.includes(topOf(name)) && !tops.has(topOf(name)));
  const isEmpty = (name: string) => record[name] === '' || record[name] === null;
  const without = (names: readonly string[]): Input =>
    Object.fromEntries(Object.entries(record).filter(([name]) => !names.includes(name)));
  const least = beside.filter((name) => !isEmpty(name) || wire === 'json');
  const found: Input[] = least.length === 0 ? [] : [without(beside), ...beside.map((name) => without([name]))];
  const own = Object.keys(record).filter((name) => tops.has(topOf(name)));
  const named = wire === 'form' ? own.filter((name) => subjects.some((path) => formName(path) === name)) : own;
  for (const name of named) for (const value of shorter(record[name])) found.push({ ...record, [name]: value });
  return found;
}

/** A value with less in it. */
function shorter(value: unknown): readonly unknown[] {
  if (typeof value === 'string') return parts([...value]).map((part) => part.join(''));
  return Array.isArray(value) ? parts(value) : [];
}

function parts<T>(whole: readonly T[]): readonly (readonly T[])[] {
  const { length } = whole;
  const but = (from: number, to: number) => [...whole.slice(0, from), ...whole.slice(to)];
  if (length <= FEW) return whole.map((_, at) => but(at, at + 1));
  const half = Math.floor(length / 2);
  const quarter = Math.floor(length / 4);
  return [
    but(half, length),
    but(0, half),
    but(quarter, length - quarter),
    but(0, 1),
    but(half, half + 1),
    but(length - 1, length),
  ];
}
