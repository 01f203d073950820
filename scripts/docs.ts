// Makes the pages that are drawn from tables: docs/problems.md and docs/kinds.md. A test holds them fresh.
import { writeFileSync } from 'node:fs';
import { kindsPage, problemsPage } from './pages.js';

writeFileSync('docs/problems.md', problemsPage());
writeFileSync('docs/kinds.md', kindsPage());
