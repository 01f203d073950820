/** The snake case that a name gets in a database: `loadOn` and `shelf.bay` become `load_on` and `shelf_bay`. */
export function snakeCase(name: string): string {
  return name
    .replaceAll('[]', '.item')
    .replace(/([a-z0-9])([A-Z])/g, '$1_$2')
    .replace(/([A-Z])([A-Z][a-z])/g, '$1_$2')
    .replaceAll('.', '_')
    .toLowerCase();
}

/** The words that people read where no label is given: `loadOn` becomes "Load on". */
export function labelOf(name: string): string {
  const words = snakeCase(name).replaceAll('_', ' ');
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** A name that ids, columns, form controls, JSON keys and JavaScript properties can all carry: `loadOn`, `load_on`. */
export function isName(name: string): boolean {
  return name.length <= 60 && /^[a-z][A-Za-z0-9]*(?:_[A-Za-z0-9]+)*$/.test(name);
}
