/** SQL expressions as a tree; only the printer knows spacing and parentheses. */
export type Sql =
  | { readonly column: string }
  | { readonly text: string }
  | { readonly number: number | string }
  | { readonly truth: boolean }
  | { readonly call: string; readonly of: readonly Sql[] }
  | { readonly left: Sql; readonly by: string; readonly right: Sql }
  | { readonly between: Sql; readonly low: Sql; readonly high: Sql }
  | { readonly cast: Sql; readonly to: string }
  | { readonly extract: string; readonly from: Sql }
  | { readonly cases: readonly (readonly [when: Sql, then: Sql])[] }
  | { readonly joined: readonly Sql[] }
  | { readonly not: Sql }
  | { readonly all: readonly Sql[] }
  | { readonly any: readonly Sql[] }
  | { readonly isGiven: Sql }
  | { readonly member: Sql; readonly among: readonly Sql[] };

/** The expressions that an expression is made of. */
export function partsOf(sql: Sql): readonly Sql[] {
  const inner = Object.values(sql).flat(2) as readonly unknown[];
  return inner.filter((part): part is Sql => typeof part === 'object' && part !== null);
}

export function column(name: string): Sql {
  return { column: name };
}
export function call(name: string, ...of: readonly Sql[]): Sql {
  return { call: name, of };
}
export function binary(left: Sql, by: string, right: Sql): Sql {
  return { left, by, right };
}
