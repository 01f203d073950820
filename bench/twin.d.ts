import type { Check } from '../tests/fixtures/echo.js';

export declare const check: Check;
