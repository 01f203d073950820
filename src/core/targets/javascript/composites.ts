import { isScalar, type KnownField } from '../../kinds/index.js';
import { mostItems, mostKeys } from '../../meaning/index.js';
import type { Constraint } from '../../model/index.js';
import {
  declaring,
  type FieldCode,
  facetStatements,
  type Inner,
  ownConstraints,
  type Place,
  pointerJs,
  rawOf,
  refusal,
  sentFields,
} from './code.js';
import { joinedName } from './names.js';
import { type Scope, variableOf } from './scope.js';
import { strangeStatements } from './strange.js';
import { all, binary, call, type Js, literal, name, nothing, type Statement, unread } from './tree.js';

type Fields = { readonly [name: string]: KnownField };

/** A record: all of it is read before any of it is judged, as an optional one may turn out to be absent. */
export function recordCode(field: KnownField, fields: Fields, place: Place, inner: Inner): FieldCode {
  const { making } = place.scope;
  const record = making.names.take(joinedName(field.path, 'record'));
  const absent = field.optional ? making.names.take(joinedName(field.path, 'absent')) : null;
  const sent = sentFields(fields).map((one) => {
    const raw = rawOf(name(record), one.name);
    const pointer = [...place.pointer, `/${one.name}`];
    return { field: one, raw, code: inner(one, { ...place, raw, pointer, atOnce: false }) };
  });
  const allAbsent = all(...sent.map(({ code }) => code.isAbsent));
  const empties = sent.flatMap(({ code }) => code.empties);
  const fills = sent.flatMap(({ code }) => code.fills);
  const unlessAbsent = (statements: readonly Statement[]): readonly Statement[] =>
    absent === null || statements.length === 0 ? statements : [{ when: { not: name(absent) }, does: statements }];
  // What is in a record is where the record is: that has been asked already.
  const reads = sent.flatMap(({ code }) => code.read);
  const judges = sent.flatMap(({ code }) => code.judge);
  const own = ownConstraints(making, field.path);
  const inside = [
    ...own.flatMap((one) =>
      facetStatements([one], place.scope, pointerJs([...place.pointer, within(one, field.path)])),
    ),
    ...strangeStatements(making, name(record), fields, place.pointer),
    ...unlessAbsent(judges),
  ];
  const isRead = binary(name(record), '!==', unread);
  const object: Js = { object: sent.map(({ field: one, code }) => [one.name, code.value] as const) };
  return {
    declares: [record, ...(absent === null ? [] : [absent]), ...sent.flatMap(({ code }) => code.declares)],
    read: [
      { set: record, is: call('readRecord', place.raw, literal(mostKeys(fields))) },
      ...(absent === null ? [] : [{ set: absent, is: literal(false) }]),
      {
        when: isRead,
        does: [
          ...reads,
          ...(absent === null ? [] : [{ set: absent, is: allAbsent }]),
          ...(absent === null || empties.length === 0 ? [] : [{ when: name(absent), does: empties }]),
          ...(absent === null ? [] : unlessAbsent(fills)),
        ],
      },
    ],
    empties,
    fills: absent !== null || fills.length === 0 ? [] : [{ when: isRead, does: fills }],
    judge: [
      {
        when: binary(name(record), '===', unread),
        does: refusal(making, field, call('isRecord', place.raw), pointerJs(place.pointer)),
        ...(inside.length > 0 ? { otherwise: inside } : {}),
      },
    ],
    value: absent === null ? object : { when: name(absent), yes: nothing, no: object },
    isAbsent: absent === null ? all(isRead, allAbsent) : name(absent),
  };
}

/** Where an item is told apart by a field of its own, it is told there. */
function within({ blame }: Pick<Constraint, 'blame'>, owner: string): string {
  return blame.startsWith(`${owner}.`) ? blame.slice(owner.length).replaceAll('.', '/') : '';
}

/** A list: read as one of its own, whose items are put into canonical form in place. */
export function listCode(field: KnownField, item: KnownField, place: Place, inner: Inner): FieldCode {
  const { making } = place.scope;
  const variable = variableOf(making, field);
  const list = name(variable);
  const pointer = pointerJs(place.pointer);
  const index = making.names.take('index');
  const at: Js = { name: `${variable}[${index}]` };
  const indices = new Map([...place.scope.indices, [field.path, index]]);
  const scope: Scope = { ...place.scope, indices };
  const code = inner(item, { scope, raw: at, pointer: [...place.pointer, '/', name(index)], atOnce: isScalar(item) });
  const isRead = recordOf(item, code);
  const value: Js = isRead === null ? code.value : { when: isRead, yes: code.value, no: unread };
  const body = [
    ...declaring(code.declares, [...code.read, ...code.fills, ...code.judge]),
    { set: `${variable}[${index}]`, is: value },
  ];
  const own = ownConstraints(making, field.path);
  const loop: Statement = { index, below: { member: list, property: 'length' }, does: body };
  return {
    declares: [variable],
    read: [{ set: variable, is: call('readList', place.raw, literal(mostItems(field))) }],
    fills: [],
    empties: [],
    judge: [
      {
        when: binary(list, '===', unread),
        does: refusal(making, field, call('Array.isArray', place.raw), pointer),
        otherwise: [...facetStatements(own, place.scope, pointer), loop],
      },
    ],
    value: list,
    isAbsent: all(binary(list, '!==', unread), binary({ member: list, property: 'length' }, '===', literal(0))),
  };
}

/** The test that an item which is a record could be read. */
function recordOf(item: KnownField, { declares }: FieldCode): Js | null {
  const [record] = declares;
  return item.fields === null || record === undefined ? null : binary(name(record), '!==', unread);
}
