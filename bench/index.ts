import { benchCompileTime } from './compile-time.js';
import { benchDatabases } from './databases.js';
import { benchPageSize } from './page-size.js';
import { benchTypeCheck } from './type-check.js';
import { benchValidators } from './validators.js';

const wanted = process.argv[2];

if (wanted === undefined || wanted === 'databases') await benchDatabases();
if (wanted === 'databases') process.exit();
benchPageSize();
await benchValidators();
benchCompileTime();
benchTypeCheck();
