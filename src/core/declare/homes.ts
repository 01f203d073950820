import type { Field, Path } from '../model/index.js';

type Fields = { readonly [name: string]: Field };

/** True for a list with a row an item, in a table of its own. */
export function isTable({ item, fields, facets }: Field): boolean {
  return (item !== null && facets.keptAs !== 'json') || (fields !== null && facets.keptAs === 'table');
}

/**
 * Which table holds the values of a path: '' is the ruleset's own, the path of a list (or of a record that has one) is
 * its own table; null within a list that is kept as JSON. A list itself is at home where its column would be.
 */
export function homeOf(fields: Fields, path: Path): Path | null {
  let home: Path | null = '';
  let walked = '';
  let inside: Fields | null = fields;
  for (const step of path.split('.')) {
    const name = step.replaceAll('[]', '');
    walked = walked === '' ? name : `${walked}.${name}`;
    let field: Field | undefined = inside !== null && Object.hasOwn(inside, name) ? inside[name] : undefined;
    for (let depth = name.length; depth < step.length; depth += 2) {
      if (field === undefined || !isTable(field)) return null;
      home = walked;
      walked += '[]';
      field = field.item ?? undefined;
    }
    if (field?.fields != null && isTable(field) && walked !== path) home = walked;
    inside = field?.fields ?? null;
  }
  return home;
}
