import type { Kind } from './kind.js';

/** What most kinds share: one entry a name, nothing for a missing one, and a value that is canonical as it is read. */
export const scalar = {
  fixed: {},
  blankIsAbsent: false,
  lastEntryCounts: false,
  whenMissingFromForm: () => null,
  encode: (_field, value) => value,
  canonical: (_field, value) => value,
  rules: () => [],
  edges: () => [],
  values: () => null,
} satisfies Partial<Kind>;
