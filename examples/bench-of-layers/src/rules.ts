import * as echoRule from 'echo-rule';
import { type Case, type Compiled, casesOf, compile } from 'echo-rule/compile';

type Check = (
  input: object,
  how: object,
) =>
  | { readonly ok: true; readonly value: { readonly [field: string]: unknown } }
  | { readonly ok: false; readonly violations: readonly echoRule.Violation[] };

/** A declaration, compiled: what the layers are made from. */
export interface Rules {
  readonly rulesets: readonly echoRule.AnyRuleset[];
  /** The one that is tried: the last that the source exports. */
  readonly ruleset: echoRule.AnyRuleset;
  /** Its compiled module, as a server imports it. */
  readonly check: Check;
  readonly postgresql: string;
  readonly sqlite: string;
  readonly ledger: Compiled['ledger'];
  readonly cases: readonly Case[];
}

/**
 * Reads a declaration from its text, and compiles it. The text is the visitor's own, run in the visitor's own page.
 *
 * @throws what the text throws: a SyntaxError, or a ProblemError that says what to mend
 */
export async function rulesFrom(source: string): Promise<Rules> {
  const found: { [name: string]: unknown } = {};
  const body = source
    .replace(
      /import\s*\{([^}]*)\}\s*from\s*['"]echo-rule['"];?/g,
      (_, names: string) => `const {${names.replaceAll(' as ', ': ')}} = echoRule;`,
    )
    .replace(/export\s+const\s+(\w+)/g, 'const $1 = found.$1');
  new Function('echoRule', 'found', body)(echoRule, found);
  const rulesets = Object.values(found).filter(
    (one): one is echoRule.AnyRuleset => typeof one === 'object' && one !== null && 'model' in one,
  );
  const ruleset = rulesets.at(-1);
  if (ruleset === undefined) throw new Error('Nothing is exported: write "export const piece = ruleset(…)".');
  const { files, ledger } = compile(rulesets, ['javascript', 'html', 'postgresql', 'sqlite']);
  const text = (path: string) => files.find((file) => file.path === path)?.text ?? '';
  const address = URL.createObjectURL(new Blob([text(`javascript/${ruleset.name}.js`)], { type: 'text/javascript' }));
  const { check } = (await import(/* @vite-ignore */ address)) as { check: Check };
  URL.revokeObjectURL(address);
  return {
    rulesets,
    ruleset,
    check,
    postgresql: text('postgresql/tables.sql'),
    sqlite: text('sqlite/tables.sql'),
    ledger,
    cases: casesOf(rulesets).filter((one) => one.ruleset === ruleset.name && one.wire === 'form'),
  };
}

/** A field that is tried by itself: in no list. */
export interface Field {
  readonly path: string;
  readonly label: string;
  /** Its control's name in a form. */
  readonly name: string;
}

export function fieldsOf({ ruleset }: Rules): readonly Field[] {
  const within = (fields: echoRule.AnyRuleset['model']['fields'], nameOf: (name: string) => string): readonly Field[] =>
    Object.values(fields).flatMap((field): readonly Field[] => {
      if (field.fields !== null) return within(field.fields, (name) => `${nameOf(field.name)}[${name}]`);
      if (field.item !== null || field.generated !== null) return [];
      return [{ path: field.path, label: field.label, name: nameOf(field.name) }];
    });
  return within(ruleset.model.fields, (name) => name);
}

/** The cases that are about a field: of its own rules, and of those over several fields that mention it. */
export function casesAbout({ ruleset, cases }: Rules, { path }: Field): readonly Case[] {
  const about = new Set(
    ruleset.model.constraints
      .filter(({ owner, subjects }) => owner === path || (owner === '' && subjects.includes(path)))
      .map(({ id }) => id),
  );
  return cases.filter(({ constraint }) => about.has(constraint));
}
