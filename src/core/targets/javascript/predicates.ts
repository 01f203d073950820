import { oneLine } from '../../kinds/index.js';
import type { PerOperator, Predicate, Term } from '../../model/index.js';
import { perOperator } from '../../model/index.js';
import { constantOf, variableOf } from './names.js';
import { all, any, binary, call, type Js, literal, name, nothing } from './tree.js';

/** Kleene's logic in two-valued code: when a predicate is true, and when it is false; neither means unknown. */
export interface Truths {
  readonly isTrue: Js;
  readonly isFalse: Js;
}

/** What a predicate's code may lean on. */
export interface Context {
  /** The constraint's name within its module, for the constants it needs. */
  readonly name: string;
  /** Fields known to be given here: their absence needs no test. */
  readonly given: ReadonlySet<string>;
  /** Takes a constant for the head of the module and returns its name. */
  constant(name: string, is: Js): string;
}

const never: Js = literal(false);
const always: Js = literal(true);
const opposite = { '=': '!==', '<': '>=', '<=': '>', '>': '<=', '>=': '<' } as const;
const spelled = { '=': '===', '<': '<', '<=': '<=', '>': '>', '>=': '>=' } as const;

/** Null: not said by an expression; decoding says it, or nothing here can. */
const predicates = {
  closed: () => null,
  typed: () => null,
  canonical: () => null,
  unique: () => null,
  refersTo: () => null,
  given: ({ of }) => ({
    isTrue: binary(name(variableOf(of)), '!==', nothing),
    isFalse: binary(name(variableOf(of)), '===', nothing),
  }),
  compare: ({ left, by, right }, context) => {
    const sides = [termJs(left), termJs(right)] as const;
    const known = [left, right].flatMap((term) => presence(term, context));
    return {
      isTrue: all(...known, binary(sides[0], spelled[by], sides[1])),
      isFalse: all(...known, binary(sides[0], opposite[by], sides[1])),
    };
  },
  member: ({ of, among }, context) => {
    const codes = context.constant(constantOf('codes', context.name), call('new Set', literal(among)));
    return tested(of, call(`${codes}.has`, termJs(of)), context);
  },
  matches: ({ of, pattern }, context) => {
    const regex: Js = { regex: { source: `^(?:${pattern.source})$`, flags: pattern.flags } };
    const wanted = pattern.source === oneLine.source ? 'patternOneLine' : constantOf('pattern', context.name);
    const constant = context.constant(wanted, regex);
    return tested(of, call(`${constant}.test`, termJs(of)), context);
  },
  and: (predicate, context) => {
    const inner = predicate.all.map((one) => truthsOf(one, context));
    return { isTrue: all(...inner.map(({ isTrue }) => isTrue)), isFalse: any(...inner.map(({ isFalse }) => isFalse)) };
  },
  or: (predicate, context) => {
    const inner = predicate.any.map((one) => truthsOf(one, context));
    return { isTrue: any(...inner.map(({ isTrue }) => isTrue)), isFalse: all(...inner.map(({ isFalse }) => isFalse)) };
  },
  not: ({ holds }, context) => {
    const { isTrue, isFalse } = truthsOf(holds, context);
    return { isTrue: isFalse, isFalse: isTrue };
  },
} satisfies PerOperator<Context, Truths | null>;

/** The code of a predicate, or null where the module holds it in another way or not at all. */
export function predicateJs(predicate: Predicate, context: Context): Truths | null {
  return perOperator(predicates, predicate, context);
}

function truthsOf(predicate: Predicate, context: Context): Truths {
  return predicateJs(predicate, context) ?? { isTrue: never, isFalse: never };
}

function tested(of: Term, test: Js, context: Context): Truths {
  const known = presence(of, context);
  return { isTrue: all(...known, test), isFalse: all(...known, { not: test }) };
}

function presence(term: Term, context: Context): readonly Js[] {
  if ('literal' in term) return term.literal === null ? [never] : [];
  const field = 'field' in term ? term.field : null;
  if (field === null) return 'lengthOf' in term ? presence(term.lengthOf, context) : [always];
  return context.given.has(field) ? [] : [binary(name(variableOf(field)), '!==', nothing)];
}

function termJs(term: Term): Js {
  if ('field' in term) return name(variableOf(term.field));
  if ('literal' in term) return literal(term.literal);
  return call('lengthOf', termJs(term.lengthOf));
}
