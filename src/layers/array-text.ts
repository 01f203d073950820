/** An array as PostgreSQL writes it. */
export function arrayText(elements: readonly (string | null)[]): string {
  return `{${elements.map(element).join(',')}}`;
}

function element(value: string | null): string {
  return value === null ? 'NULL' : `"${value.replace(/["\\]/g, '\\$&')}"`;
}
