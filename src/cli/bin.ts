#!/usr/bin/env node
import { run } from './main.js';
import { processTerminal } from './terminal.js';

// Whoever reads the output may stop before its end, as `head` does: that is no error.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code !== 'EPIPE') throw error;
  process.exit(process.exitCode);
});

process.exitCode = await run(process.argv.slice(2), processTerminal());
