import type { KnownField } from '../../kinds/index.js';
import { type Constraint, listsOf, type Model, pointerToPath } from '../../model/index.js';
import { isLookup } from '../../operators/index.js';
import { failure, guarded, pointerJs } from './code.js';
import { predicateJs } from './predicates.js';
import { printJs } from './print.js';
import { listJs, type Making, type Scope, scopeOf, valueJs } from './scope.js';
import { within } from './terms.js';
import { all, any, binary, call, type Js, literal, name, nothing, type Statement, unread } from './tree.js';

/** The named rules that a page or a server judges, each in a block of its own. */
export function ruleStatements(making: Making): readonly Statement[] {
  return making.model.constraints
    .filter(({ facet, predicate }) => !facet && !isLookup(predicate))
    .flatMap((rule) => guarded(rule.enforcedIn, oneRule(rule, making)));
}

function oneRule(rule: Constraint, making: Making): readonly Statement[] {
  return overItems(rule, scopeOf(making), (scope, pointer) => {
    const truths = predicateJs(rule.predicate, scope);
    if (truths === null) return [];
    return [{ when: all(...readTests(rule, scope), truths.isFalse), does: [failure(rule, pointer(rule.blame))] }];
  });
}

type Body = (scope: Scope, pointer: (path: string) => Js) => readonly Statement[];

/** A rule over the items of a list is judged in a loop over them; any other once. */
function overItems({ over, owner }: Constraint, start: Scope, body: Body): readonly Statement[] {
  const path = over === null ? owner : `${over}[]`;
  const nest = (scope: Scope, indices: ReadonlyMap<string, string>, lists: readonly string[]): readonly Statement[] => {
    const [list, ...rest] = lists;
    if (list === undefined) return body(scope, (blame) => pointerTo(blame, indices));
    const depth = indices.size + 1;
    const [item, index] = [`one${depth}`, `at${depth}`];
    const inner = { ...scope, items: new Map([...scope.items, [list, { item }]]) };
    const items = listJs(list, scope);
    const loop: Statement = {
      index,
      below: { member: items, property: 'length' },
      does: [
        { constant: item, is: { element: items, at: name(index) } },
        ...nest(inner, new Map([...indices, [list, index]]), rest),
      ],
    };
    // A list that could not be read has no items to judge.
    return [{ when: binary(items, '!==', unread), does: [loop] }];
  };
  return nest(start, new Map(), listsOf(path));
}

function pointerTo(path: string, indices: ReadonlyMap<string, string>): Js {
  const parts: (string | Js)[] = [];
  let walked = '';
  for (const step of path.split('.')) {
    const field = step.replaceAll('[]', '');
    walked = walked === '' ? field : `${walked}.${field}`;
    parts.push(`/${field}`);
    for (let depth = field.length; depth < step.length; depth += 2) {
      parts.push('/', name(indices.get(walked) ?? '0'));
      walked += '[]';
    }
  }
  return pointerJs(parts);
}

/** A rule is judged only where all that it mentions could be read. */
function readTests({ subjects }: Constraint, scope: Scope): readonly Js[] {
  return subjects.map((path) => {
    const open = listsOf(path).filter((list) => !scope.items.has(list));
    return open.length === 0 ? binary(valueJs(path, scope), '!==', unread) : allRead(path, open, scope);
  });
}

/** Every item could be read; so it was where nothing at all has been told. */
function allRead(path: string, lists: readonly string[], scope: Scope): Js {
  const every = ([list = '', ...more]: readonly string[], inner: Scope): Js => {
    const holds = within(list, inner, (item) =>
      more.length === 0 ? binary(valueJs(path, item), '!==', unread) : every(more, item),
    );
    return call(`${printJs(listJs(list, inner))}.every`, holds);
  };
  return any(binary(name('violations'), '===', nothing), every(lists, scope));
}

/** Of rules that are told at one field but mention several, the pointers of all: what a partial update asks of. */
export function subjectTable(model: Model<KnownField['kind']>): Js {
  const entries = model.constraints.flatMap((constraint): readonly (readonly [string, Js])[] => {
    const { id, blame, subjects, predicate } = constraint;
    if (predicate.op === 'closed' || predicate.op === 'bounded' || blame === '') return [[id, nothing]];
    if (subjects.length === 1 && subjects[0] === blame) return [];
    return [[id, literal([...new Set(subjects.map(upToList))])]];
  });
  return { object: entries };
}

/** A list is sent as a whole: what is in it was sent where it was. */
function upToList(path: string): string {
  return pointerToPath(path.split('[]')[0] ?? path);
}

/** The server's questions: what each asks, of which values, and at which fields. */
export function questionStatements(making: Making): readonly Statement[] {
  return making.model.constraints.flatMap((constraint) => {
    const { predicate } = constraint;
    if (predicate.op !== 'asks') return [];
    return guarded(
      constraint.enforcedIn,
      overItems(constraint, scopeOf(making), (scope, pointer) => {
        const values = predicate.of.map((path) => valueJs(path, scope));
        const isThere = values.flatMap((value) => [binary(value, '!==', unread), binary(value, '!==', nothing)]);
        const asked = printJs(call('lookUpIn', name('how'), literal(predicate.name)));
        const ask: Js = { takes: '', gives: call(asked, ...values) };
        const question: Js = {
          object: [
            ['of', { list: constraint.subjects.map(pointer) }],
            ['pointer', pointer(constraint.blame)],
            ['rule', literal(constraint.id)],
            ['message', literal(constraint.message)],
            ['ask', ask],
          ],
        };
        return [{ when: all(...isThere), does: [{ run: call('asked.push', question) }] }];
      }),
    );
  });
}
