// The compiler copies no style sheets: this one ships as it is.
import { copyFileSync } from 'node:fs';

copyFileSync('src/browser/form.css', 'dist/browser/form.css');
