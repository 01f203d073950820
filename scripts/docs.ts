// Makes the pages that are drawn from tables: docs/problems.md, docs/kinds.md and docs/findings.md. A test holds them fresh.
import { writeFileSync } from 'node:fs';
import { findingsPage, kindsPage, problemsPage } from './pages.js';

writeFileSync('docs/problems.md', problemsPage());
writeFileSync('docs/kinds.md', kindsPage());
writeFileSync('docs/findings.md', findingsPage());
