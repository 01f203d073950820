import { benchCases } from './cases.js';
import { benchCompileTime } from './compile-time.js';
import { benchDatabases } from './databases.js';
import { benchGrowth } from './growth.js';
import { benchLayers } from './layers.js';
import { benchMatching } from './matching.js';
import { benchPageSize } from './page-size.js';
import { benchReview } from './review.js';
import { benchTypeCheck } from './type-check.js';
import { benchValidators } from './validators.js';

const wanted = process.argv[2];

if (wanted === undefined || wanted === 'databases') await benchDatabases();
if (wanted === undefined || wanted === 'reason') {
  benchReview();
  benchMatching();
}
if (wanted === undefined || wanted === 'cases') benchCases();
if (wanted === undefined || wanted === 'growth') await benchGrowth();
if (wanted === undefined || wanted === 'layers') await benchLayers();
if (wanted !== undefined) process.exit();
benchPageSize();
await benchValidators();
benchCompileTime();
benchTypeCheck();
