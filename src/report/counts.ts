/** A number of things as it is read, 3,896. */
export function counted(count: number): string {
  return count.toLocaleString('en');
}

/** The number and what is counted: 1 case, 3,896 cases. */
export function plural(count: number, what: string): string {
  return `${counted(count)} ${what}${count === 1 ? '' : 's'}`;
}
