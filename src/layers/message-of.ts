/** What an error says: drivers throw objects that are no errors, too. */
export function messageOf(error: unknown): string {
  const isTold = typeof error === 'object' && error !== null && 'message' in error;
  return String(isTold ? error.message : error);
}
