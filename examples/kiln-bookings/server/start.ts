// Starts the studio: embedded PostgreSQL unless DATABASE_URL names a server, port 4173 unless PORT says otherwise.
import { createServer } from 'node:http';
import { nodeHandler } from 'echo-rule/server';
import { studio } from './app.ts';
import { assetAt, readAssets } from './assets.ts';
import { openDatabase } from './database.ts';

const made = new URL('../dist/', import.meta.url);
const database = await openDatabase(process.env.DATABASE_URL);
const answer = studio(database, await readAssets(made), ({ method, path, status, code, violations, error }) => {
  const why = violations.map(({ rule }) => rule).join(', ') || code;
  console.log(`${method} ${path} ${status}${why ? ` ${why}` : ''}${error === null ? '' : `\n${error.stack}`}`);
});
const server = createServer(
  nodeHandler(
    async (request) => (await assetAt(made, new URL(request.url).pathname)) ?? answer(request),
    console.error,
  ),
);
const port = Number(process.env.PORT ?? 4173);
server.listen(port, '127.0.0.1', () => {
  const address = server.address();
  console.log(`The studio is at http://127.0.0.1:${typeof address === 'object' ? address?.port : port}/`);
});
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, () => {
    server.close(() => void database.close().then(() => process.exit()));
    server.closeAllConnections();
  });
