import { choicesOf, isTextual, type KnownField, valueField } from '../../kinds/index.js';
import type { Rewrite, Rewriting } from '../mistake.js';
import { idOf, valued } from '../places.js';
import { withFacets, withField } from '../remodel.js';

type Model = Parameters<Rewriting>[0];

/** One of the choices is not known. */
export const choiceDropped: Rewriting = (model) =>
  choices(model, (all) => (all.length > 1 ? all.slice(0, -1) : null), 'the last choice is not known');

/** The label of a choice is taken for a code. */
export const labelTaken: Rewriting = (model) =>
  choices(
    model,
    (all) => {
      const [first] = all.filter(
        ([code, label]) => typeof code === 'string' && !all.some(([other]) => other === label),
      );
      return first === undefined ? null : [...all, [first[1], first[1]]];
    },
    'the label is taken for the code',
  );

type Choices = readonly (readonly [string | number, string])[];

function choices(model: Model, change: (all: Choices) => Choices | null, words: string): readonly Rewrite[] {
  return valued(model).flatMap((field) => {
    const all = choicesOf(field);
    const changed = all.length === 0 || field.key !== null ? null : change(all);
    if (changed === null) return [];
    return [
      {
        model: withFacets(model, field.path, { choices: changed }),
        words,
        constraint: idOf(model, field.path, 'enumeration'),
      },
    ];
  });
}

/** Outer white space is not taken off. */
export const trimDropped = canonical(
  ({ facets }) => (facets.trim === false ? null : { trim: false }),
  'outer white space stays',
);
/** Inner white space stays as it is. */
export const collapseDropped = canonical(
  ({ facets }) => (facets.collapse === true ? { collapse: undefined } : null),
  'inner white space stays',
);
/** Letters stay in the case that they were typed in. */
export const caseDropped = canonical(
  ({ facets }) => (facets.case == null ? null : { case: undefined }),
  'letters stay as they are typed',
);
/** Accents stay as they were typed. */
export const normalFormDropped = canonical(
  ({ facets }) => (facets.unicode == null ? null : { unicode: undefined }),
  'no normal form is made',
);

function canonical(
  change: (field: KnownField) => { readonly [facet: string]: unknown } | null,
  words: string,
): Rewriting {
  return (model) =>
    valued(model)
      .filter(isTextual)
      .flatMap((field) => {
        const facets = change(valueField(field));
        if (facets === null) return [];
        return [
          { model: withFacets(model, field.path, facets), words, constraint: idOf(model, field.path, 'canonical') },
        ];
      });
}

/** One digit more behind the point is let in. */
export const scaleFiner: Rewriting = (model) =>
  valued(model).flatMap((field) => {
    const { scale, precision } = field.facets;
    if (typeof scale !== 'number' || typeof precision !== 'number') return [];
    const facets = { scale: scale + 1, precision: precision + 1 };
    return [
      {
        model: withFacets(model, field.path, facets),
        words: 'one digit more behind the point is let in',
        constraint: idOf(model, field.path, 'scale'),
      },
    ];
  });

/** Keys that are not declared are passed over. */
export const keysPassedOver: Rewriting = (model) =>
  model.undeclared === 'drop'
    ? []
    : [
        {
          model: { ...model, undeclared: 'drop' },
          words: 'unknown keys are passed over',
          constraint: `${model.ruleset}.keys`,
        },
      ];

/** Nothing is filled in where a key is missing. */
export const defaultDropped: Rewriting = (model) =>
  valued(model)
    .filter((field) => field.default !== null && !field.path.includes('[]'))
    .map(({ path }) => ({
      model: withField(model, path, (field) => ({ ...field, default: null })),
      words: 'nothing is filled in',
      constraint: idOf(model, path, 'type'),
    }));
