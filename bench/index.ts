import { benchCompileTime } from './compile-time.js';
import { benchTypeCheck } from './type-check.js';
import { benchValidators } from './validators.js';

await benchValidators();
benchCompileTime();
benchTypeCheck();
