import { type Helpers, helper } from './piece.js';

/**
 * Names of form controls into the shape of a record. A shape is 0 for a value, 1 for an optional box, 2 for a required
 * one, an object for a record, and a list of one shape for a list.
 */
export const forms: Helpers = {
  twice: helper('/** What no kind reads: several entries where one is wanted. */\nconst twice = [];'),
  entryOf: helper(
    `function entryOf(given, shape) {
  const entries = Array.isArray(given) ? given : given === undefined || given === null ? [] : [given];
  if (entries.length === 0) return undefined;
  if (entries.length > 1 && shape === 0) return twice;
  const entry = entries[entries.length - 1];
  return entry === '' ? null : typeof entry === 'string' ? entry : twice;
}`,
    'twice',
  ),
  readFlatForm: helper(
    `function readFlatForm(input, shape, strange, shown) {
  const record = {};
  for (const name of Object.keys(input)) {
    const entry = entryOf(input[name], shape[name]);
    if (entry === undefined) continue;
    if (Object.hasOwn(shape, name)) record[name] = entry;
    else strange.push(name);
  }
  for (const name of shown) if (shape[name] === 2 && !Object.hasOwn(record, name)) record[name] = 'false';
  return record;
}`,
    'entryOf',
  ),
  readForm: helper(
    `function readForm(input, shape, strange, shown) {
  const root = { entries: [], inner: new Map() };
  for (const name of Object.keys(input)) {
    const given = input[name];
    if (given === undefined || given === null || given.length === 0 && Array.isArray(given)) continue;
    const node = /^[^.[\\]]+(?:\\.[^.[\\]]+|\\[[^.[\\]]*\\])*$/.test(name) ? nodeAt(root, shape, stepsOf(name)) : null;
    if (node === null) strange.push(name);
    else for (const entry of Array.isArray(given) ? given : [given]) node.entries.push(entry);
  }
  const record = treeOf(shape, root);
  for (const path of shown) showField(shape, record, path.split('.'));
  return record;
}`,
    'nodeAt',
    'stepsOf',
    'treeOf',
    'showField',
  ),
  stepsOf: helper(`function stepsOf(name) {
  const steps = name.split(/\\.|\\]?\\[|\\]$/);
  return name.endsWith(']') ? steps.slice(0, -1) : steps;
}`),
  nodeAt: helper(`/** The place that steps lead to, made on the way; null where they lead to no field. */
function nodeAt(root, shape, steps) {
  const way = [];
  let last = steps.length;
  for (let index = 0; index < last; index += 1) {
    const step = steps[index];
    if (Array.isArray(shape)) {
      if (step === '' && index === last - 1 && typeof shape[0] === 'number') last = index;
      else if (/^(?:0|[1-9][0-9]{0,8})$/.test(step)) shape = shape[0];
      else return null;
    } else if (typeof shape === 'object' && Object.hasOwn(shape, step)) shape = shape[step];
    else return null;
    if (index < last) way.push(step);
  }
  let node = root;
  for (const step of way) {
    if (!node.inner.has(step)) node.inner.set(step, { entries: [], inner: new Map() });
    node = node.inner.get(step);
  }
  return node;
}`),
  isBlank: helper(`function isBlank(entry) {
  return typeof entry === 'string' && entry.trim() === '';
}`),
  treeOf: helper(
    `function treeOf(shape, { entries, inner }) {
  if (typeof shape === 'number') return entryOf(entries, shape);
  const more = entries.filter((entry) => !isBlank(entry));
  const nodes = [...inner];
  if (!Array.isArray(shape)) {
    return more.length > 0 ? more[0] : Object.fromEntries(nodes.map(([name, node]) => [name, treeOf(shape[name], node)]));
  }
  const [item] = shape;
  if (typeof item !== 'number' && more.length > 0) return more[0];
  const items = nodes.sort(([a], [b]) => a - b).map(([, node]) => node);
  for (const entry of more) items.push({ entries: [entry], inner: new Map() });
  return items.filter((node) => !isBlankNode(item, node)).map((node) => treeOf(item, node));
}`,
    'entryOf',
    'isBlank',
    'isBlankNode',
  ),
  isBlankNode: helper(
    `function isBlankNode(shape, { entries, inner }) {
  if (!entries.every((entry) => isBlank(entry) || (entry === 'false' && typeof shape === 'number' && shape > 0))) return false;
  return [...inner].every(([step, node]) => isBlankNode(Array.isArray(shape) ? shape[0] : shape[step], node));
}`,
    'isBlank',
  ),
  showField: helper(
    `/** A shown field that a form did not send: an unticked box, an empty list. */
function showField(shape, record, [name, ...rest]) {
  if (!Object.hasOwn(shape, name)) return;
  const inner = shape[name];
  if (typeof inner === 'object' && !Array.isArray(inner)) {
    if (record[name] !== undefined && !isRecord(record[name])) return;
    const within = { ...record[name] };
    for (const steps of rest.length > 0 ? [rest] : Object.keys(inner).map((one) => [one])) showField(inner, within, steps);
    if (Object.keys(within).length > 0) record[name] = within;
  } else if (!Object.hasOwn(record, name)) {
    if (Array.isArray(inner)) record[name] = [];
    else if (inner === 2) record[name] = 'false';
  }
}`,
    'isRecord',
  ),
};
