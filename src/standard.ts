import type { StandardSchemaV1 } from '@standard-schema/spec';
import type { AcceptedOf, AnyRuleset, SubmittedOf } from './core/declare/index.js';
import { type Checked, type CheckOptions, validator } from './core/meaning/index.js';
import type { Catalogue } from './core/messages/index.js';

/**
 * A ruleset behind the interface of `@standard-schema/spec`, version 1, which form and server frameworks accept.
 *
 * @param how the wire and who checks, as for `check`; JSON on a server unless told
 * @param catalogue the language of the messages; English unless told
 */
export function standard<R extends AnyRuleset>(
  ruleset: R,
  how: Omit<CheckOptions, 'partial'> = {},
  catalogue?: Catalogue,
): StandardSchemaV1<SubmittedOf<R>, AcceptedOf<R>> {
  const { check, checkAsync } = validator(ruleset, catalogue);
  const asks = ruleset.model.constraints.some(({ predicate }) => predicate.op === 'asks') && how.on !== 'client';
  return {
    '~standard': {
      version: 1,
      vendor: 'echo-rule',
      validate: (value) =>
        asks ? checkAsync(value, how).then(resultOf) : resultOf(check(value, { ...how, partial: false })),
    },
  };
}

function resultOf<T>(checked: Checked<T>): StandardSchemaV1.Result<T> {
  if (checked.ok) return { value: checked.value };
  return { issues: checked.violations.map(({ message, pointer }) => ({ message, path: pathOf(pointer) })) };
}

/** The keys that an RFC 6901 pointer goes through; an entry's is its number. No field's name is one. */
function pathOf(pointer: string): readonly PropertyKey[] {
  const tokens = pointer.split('/').slice(1);
  return tokens.map((token) =>
    /^(?:0|[1-9][0-9]*)$/.test(token) ? Number(token) : token.replaceAll('~1', '/').replaceAll('~0', '~'),
  );
}
