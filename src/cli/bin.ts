#!/usr/bin/env node
import { run } from './main.js';
import { processTerminal } from './terminal.js';

process.exitCode = await run(process.argv.slice(2), processTerminal());
