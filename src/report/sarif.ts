import { findings as catalogue, type Finding } from '../core/review/index.js';

const SCHEMA = 'https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json';

/**
 * Findings in the Static Analysis Results Interchange Format, version 2.1.0 (OASIS), for code hosts and editors.
 *
 * @param shorten makes a path relative to the project's folder, which `SRCROOT` stands for
 */
export function sarifText(findings: readonly Finding[], version: string, shorten: (file: string) => string): string {
  const codes = Object.keys(catalogue) as (keyof typeof catalogue)[];
  const location = ({ file, line }: Finding['place']) => ({
    physicalLocation: {
      artifactLocation: { uri: encodeURI(shorten(file)), uriBaseId: 'SRCROOT' },
      region: { startLine: Math.max(line, 1) },
    },
  });
  const run = {
    tool: {
      driver: {
        name: 'echo-rule',
        version,
        rules: codes.map((code) => ({
          id: code,
          shortDescription: { text: catalogue[code].title },
          fullDescription: { text: catalogue[code].about },
        })),
      },
    },
    originalUriBaseIds: { SRCROOT: { description: { text: 'The folder of the project.' } } },
    columnKind: 'unicodeCodePoints',
    results: findings.map((finding) => ({
      ruleId: finding.code,
      ruleIndex: codes.indexOf(finding.code),
      level: finding.severity,
      message: { text: `${finding.message} ${finding.proof} ${finding.mend}` },
      locations: [
        {
          ...location(finding.place),
          logicalLocations: [{ fullyQualifiedName: [finding.ruleset, finding.field].filter(Boolean).join('.') }],
        },
      ],
      relatedLocations: finding.rules.map(({ id, says, place }, at) => ({
        id: at + 1,
        ...location(place),
        message: { text: `${id}: ${says}` },
      })),
      partialFingerprints: { 'finding/v1': fingerprint(finding) },
      properties: { examples: finding.examples },
    })),
  };
  return `${JSON.stringify({ $schema: SCHEMA, version: '2.1.0', runs: [run] }, null, 2)}\n`;
}

/** The same for the same finding, wherever in the file it moves. */
function fingerprint({ code, ruleset, field, rules }: Finding): string {
  return [code, ruleset, field, ...rules.map(({ id }) => id)].join('/');
}
