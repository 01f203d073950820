import { kinds } from '../src/core/kinds/index.js';
import { english, type Problem, phrase, problems } from '../src/core/messages/index.js';
import { findings } from '../src/core/review/index.js';
import { problemEntries } from '../src/server/http/problem.js';

/** The page of every problem, by its code: what it says and how to mend it. */
export function problemsPage(): string {
  const all = Object.values(problems).map((make) =>
    (make as (...words: (string | null)[]) => Problem)(null, '…', '…', '…', '…'),
  );
  const sections = all.map(({ code, message, mend }) => `## ${code}\n\n${message}\n\n${mend}\n`);
  const answers = Object.entries(problemEntries).map(
    ([code, { status, title, detail }]) => `| \`${code}\` | ${status} | ${title} | ${detail.replace('{what}', '…')} |`,
  );
  return `# Problems\n\nEvery problem has a code that does not change, the place where it is, and the way to mend it. \`…\` stands for a name or
value of yours.\n\n${sections.join('\n')}
## Answers of a server

Problem documents (RFC 9457) of \`endpoint\`, by their member \`code\`.

| code | status | title | detail |
|---|---|---|---|
${answers.join('\n')}
`;
}

/** What is said of a value that is not of a kind; a reference says what its key says. */
function refusal(kind: string): string {
  const keys = [`type.${kind === 'reference' ? 'text' : kind}`];
  return phrase(english, { keys, label: '…', limit: '' });
}

/** The page of the kinds: facets, and the grammar on each wire. */
export function kindsPage(): string {
  const sections = Object.entries(kinds).map(([name, { facets, grammar, blankIsAbsent }]) => {
    const own = Object.entries(facets).map(([facet, type]) => `\`${facet}\` (${type})`);
    const rows = Object.entries(grammar).map(([wire, words]) => `| ${wire} | ${words.replaceAll('|', '\\|')} |`);
    const blank = blankIsAbsent ? '\nOuter white space is trimmed; blank text is absent on every wire.\n' : '';
    return `## ${name}\n\nFacets: ${own.join(', ') || 'none'}.\n${blank}\n| wire | what is read |\n|---|---|\n${rows.join('\n')}\n\nAnything else: “${refusal(name)}”\n`;
  });
  return `# Kinds\n\nWhat each kind reads on each wire. Anything else is refused as \`<field>.type\`, never repaired.\n\n${sections.join('\n')}`;
}

/** The page of what a review finds, by its code. */
export function findingsPage(): string {
  const sections = Object.entries(findings).map(([code, { title, about }]) => `## ${code}\n\n**${title}.** ${about}\n`);
  return `# Findings\n\nWhat \`echo-rule review\` tells, by the code of each; [how it knows](review.md).\n\n${sections.join('\n')}`;
}
