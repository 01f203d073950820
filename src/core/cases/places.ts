import { isScalar, type KnownField } from '../kinds/index.js';
import { formName, isSent, type Model, type Path, plainFields, type Row, type Wire } from '../model/index.js';

type Known = Model<KnownField['kind']>;

/** The fields with a value of their own that cases are made for one by one: those that somebody sends, in no list. */
export function singleFields(model: Known): readonly KnownField[] {
  return plainFields(model).filter((field) => isSent(field) && isScalar(field) && isServed(field));
}

/** The lists of a record that somebody sends. */
export function listFields(model: Known): readonly KnownField[] {
  return plainFields(model).filter((field) => isSent(field) && field.item !== null && isServed(field));
}

/** What only the page has, no server reads. */
function isServed({ enforcedIn }: KnownField): boolean {
  return enforcedIn.includes('server');
}

export function rawAt(input: { readonly [name: string]: unknown }, path: Path, wire: Wire): unknown {
  if (wire === 'form') return input[formName(path)];
  if (!path.includes('.')) return Object.hasOwn(input, path) ? input[path] : undefined;
  return path.split('.').reduce<unknown>((inner, step) => {
    return typeof inner === 'object' && inner !== null && Object.hasOwn(inner, step)
      ? (inner as { [name: string]: unknown })[step]
      : undefined;
  }, input);
}

/** Puts a raw entry at a field; undefined takes it out. Records on the way are copied. */
export function putRaw(input: { [name: string]: unknown }, path: Path, raw: unknown, wire: Wire): void {
  if (wire === 'form' || !path.includes('.')) {
    const name = wire === 'form' ? formName(path) : path;
    if (raw === undefined) delete input[name];
    else input[name] = raw;
    return;
  }
  const [first = '', ...rest] = path.split('.');
  const before = input[first];
  const inner: { [name: string]: unknown } = typeof before === 'object' && before !== null ? { ...before } : {};
  putRaw(inner, rest.join('.'), raw, wire);
  input[first] = inner;
}

/** A record by the names of a form, whatever its values are; what is not in it is there, and empty. */
export function looseForm(model: Known, row: Row): { [name: string]: unknown } {
  const named = (field: KnownField, value: unknown, name: string): readonly (readonly [string, unknown])[] => {
    const { fields, item } = field;
    if (fields !== null && typeof value === 'object' && value !== null && !Array.isArray(value)) {
      const record = value as { readonly [name: string]: unknown };
      return Object.values(fields).flatMap((inner) =>
        named(inner, record[inner.name] ?? null, `${name}[${inner.name}]`),
      );
    }
    if (item !== null && Array.isArray(value)) return value.flatMap((one, at) => named(item, one, `${name}[${at}]`));
    return fields !== null && value === null ? [] : [[name, value]];
  };
  return Object.fromEntries(
    Object.values(model.fields)
      .filter(isSent)
      .flatMap((field) => named(field, row[field.name] ?? null, field.name)),
  );
}
