import type { Operator } from './operator.js';

/** Unknown to anyone but the server, which asks after everything else. */
export const asks: Operator<'asks'> = {
  mentions: ({ of }) => of,
  judge: () => null,
};
