import type { Path } from '../../model/index.js';

/** A JSON Schema of draft 2020-12, or a part of one. */
export interface SchemaNode {
  readonly [keyword: string]: unknown;
}

type Properties = { readonly [name: string]: SchemaNode };

/** What holds of the value at a path, if it is there, as what holds of the document: `shelf.bay`, `helpers[]`. */
export function atPath(path: Path, leaf: SchemaNode): SchemaNode {
  return stepsOf(path).reduceRight<SchemaNode>(
    (inner, step) => (step === '[]' ? { items: inner } : { properties: { [step]: inner } }),
    leaf,
  );
}

/** The same, where the value must be there; null for what is in a list. */
export function thereAt(path: Path, leaf: SchemaNode): SchemaNode | null {
  const steps = stepsOf(path);
  if (steps.includes('[]')) return null;
  return steps.reduceRight<SchemaNode>((inner, step) => {
    const isPlain = Object.keys(inner).length === 0;
    return isPlain ? { required: [step] } : { required: [step], properties: { [step]: inner } };
  }, leaf);
}

/** `shelf.bay` is the steps `shelf` and `bay`; `parts[].name` is `parts`, `[]` and `name`. */
export function stepsOf(path: Path): readonly string[] {
  return path.split(/\.|(?=\[\])/).filter((step) => step !== '');
}

/** Of two limits the one that lets less in. */
const tighter: { readonly [keyword: string]: (a: number, b: number) => number } = {
  minimum: Math.max,
  exclusiveMinimum: Math.max,
  minLength: Math.max,
  minItems: Math.max,
  maximum: Math.min,
  exclusiveMaximum: Math.min,
  maxLength: Math.min,
  maxItems: Math.min,
};

/** Both at once, keyword by keyword; what can't be said in one keyword stands in `allOf`. */
export function both(a: SchemaNode, b: SchemaNode): SchemaNode {
  const result: { [keyword: string]: unknown } = { ...a };
  const apart: SchemaNode[] = [];
  for (const [keyword, value] of Object.entries(b)) {
    const known = result[keyword];
    if (known === undefined || JSON.stringify(known) === JSON.stringify(value)) result[keyword] = value;
    else if (Object.hasOwn(tighter, keyword)) result[keyword] = tighter[keyword]?.(known as number, value as number);
    else if (keyword === 'properties') result[keyword] = properties(known as Properties, value as Properties);
    else if (keyword === 'items') result[keyword] = both(known as SchemaNode, value as SchemaNode);
    else if (keyword === 'required') result[keyword] = [...new Set([...(known as string[]), ...(value as string[])])];
    else if (keyword === 'allOf') result[keyword] = [...(known as SchemaNode[]), ...(value as SchemaNode[])];
    else apart.push({ [keyword]: value });
  }
  return apart.length === 0 ? result : { ...result, allOf: [...((result.allOf as SchemaNode[]) ?? []), ...apart] };
}

function properties(a: Properties, b: Properties): Properties {
  const added = Object.entries(b).map(([name, node]) => {
    const known = Object.hasOwn(a, name) ? a[name] : undefined;
    return [name, known === undefined ? node : both(known, node)] as const;
  });
  return { ...a, ...Object.fromEntries(added) };
}

/** A text as a pattern that matches it and nothing else. */
export function escaped(text: string): string {
  return text.replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&');
}
