/** What kind of rule a write broke, as far as the engine tells. */
export type RefusalKind = 'required' | 'unique' | 'check' | 'foreignKey' | 'type' | 'length' | 'unknown';

/** A refused write in the engine's own words, the same shape for every driver. */
export interface Refusal {
  readonly kind: RefusalKind;
  /** The name of the constraint or index. */
  readonly constraint: string | null;
  readonly table: string | null;
  /** The columns that the engine names. */
  readonly columns: readonly string[];
  readonly message: string;
}

export const unnamed = { constraint: null, table: null, columns: [] } as const;
