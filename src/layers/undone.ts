import type { Connection } from '../server/connections/index.js';

/**
 * What comes of work within a transaction that is rolled back, however the work ends.
 *
 * @param begin the statements that begin it
 */
export async function* undone<T>(
  connection: Connection,
  begin: string,
  work: () => AsyncIterable<T>,
): AsyncIterable<T> {
  await connection.run(begin);
  let failure: unknown = null;
  try {
    yield* work();
  } catch (error) {
    failure = error;
    throw error;
  } finally {
    // Where the connection is lost, so is the transaction: what is told is that.
    await connection.run('ROLLBACK').catch((error: unknown) => {
      if (failure === null) throw error;
    });
  }
}
