import { type Helpers, helper } from './piece.js';

const items = `      if (inner.key !== undefined && Array.isArray(value)) record[name] = mergeItems(value, stored, inner, form);
`;

/** Lists whose items are told apart by a key are merged item by item. */
function mergeText(keyed: boolean): string {
  const name = keyed ? 'mergeKeyed' : 'merge';
  return `/** Notes in \`sent\` what was sent itself (false), or with all that is in it (true). */
function ${name}(given, existing, shape, pointer, sent, form, known) {
  const record = { ...given };
  for (const name of Object.keys(shape)) {
    const inner = shape[name];
    const stored = isRecord(existing) && Object.hasOwn(existing, name) ? existing[name] : null;
    const value = Object.hasOwn(given, name) ? given[name] : undefined;
    const at = pointer + '/' + name;
    if (value === undefined) {
      if (stored !== null) record[name] = form ? asForm(stored) : stored;
    } else if (isRecord(inner.fields) && isRecord(value)) {
      sent.set(at, stored === null && inner.optional && known);
      record[name] = ${name}(value, stored, inner.fields, at, sent, form, known);
    } else {
      sent.set(at, true);
${keyed ? items : ''}    }
  }
  return record;
}`;
}

/** Partial updates: what is sent is put over the stored record, and only what mentions it is told. */
export const partial: Helpers = {
  merge: helper(mergeText(false), 'isRecord', 'asForm'),
  mergeKeyed: helper(mergeText(true), 'isRecord', 'asForm', 'mergeItems'),
  withoutBlank:
    helper(`/** A form shows no secret that is stored: one that is sent blank is not sent, and stays as it is. */
function withoutBlank(tree, secrets) {
  const isBlank = (entries) => [entries].flat().every((entry) => entry === '' || entry === null);
  return Object.fromEntries(Object.entries(tree).filter(([name, entries]) => !(secrets.includes(name) && isBlank(entries))));
}`),
  mergeItems: helper(
    `function mergeItems(items, stored, { key, keyOf, fields }, form) {
  const byKey = new Map();
  for (const one of Array.isArray(stored) ? stored : []) if (!byKey.has(one[key])) byKey.set(one[key], one);
  return items.map((item) => {
    const own = isRecord(item) && Object.hasOwn(item, key) ? keyOf(item[key], form) : null;
    const match = own == null ? undefined : byKey.get(own);
    return match === undefined ? item : mergeKeyed(item, match, fields, '', new Map(), form, true);
  });
}`,
    'isRecord',
  ),
  asForm: helper(
    `/** A stored value as a form would send it. */
function asForm(value) {
  if (Array.isArray(value)) return value.map(asForm);
  if (typeof value !== 'object' || value === null) return value === null ? null : typeof value === 'number' ? plainNumber(value) : String(value);
  const record = {};
  for (const name of Object.keys(value)) record[name] = asForm(value[name]);
  return record;
}`,
    'plainNumber',
  ),
  isSent: helper(`function isSent(sent, pointer) {
  if (sent.has(pointer)) return true;
  for (const [one, whole] of sent) if (whole && pointer.startsWith(one + '/')) return true;
  return false;
}`),
  toldOf: helper(
    `/** Of violations, those of what was sent: of a rule over several fields, one was sent; all where nothing is known. */
function toldOf(violations, sent, known, subjects) {
  const told = violations.filter(({ pointer, rule }) => {
    if (!Object.hasOwn(subjects, rule)) return isSent(sent, pointer);
    const of = subjects[rule];
    return of === null || (known ? of.some((one) => isSent(sent, one)) : of.every((one) => isSent(sent, one)));
  });
  return told.length > 0 ? told : null;
}`,
    'isSent',
  ),
  sentOnly: helper(
    `function sentOnly(record, sent, pointer) {
  const only = {};
  for (const name of Object.keys(record)) {
    const at = pointer + '/' + name;
    if (isSent(sent, at)) only[name] = isRecord(record[name]) ? sentOnly(record[name], sent, at) : record[name];
  }
  return only;
}`,
    'isSent',
    'isRecord',
  ),
};
