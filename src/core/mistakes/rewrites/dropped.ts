import { fieldAt, secretIn } from '../../model/index.js';
import type { Rewriting } from '../mistake.js';
import { facetsNamed, idOf, listed, namedRules, valued } from '../places.js';
import { withFacets, withField, withPredicate } from '../remodel.js';

const facets = [
  'min',
  'max',
  'minLength',
  'maxLength',
  'minItems',
  'maxItems',
  'step',
  'pattern',
  'charset',
  'distinct',
  'must',
];

/** A facet of a field is not there. */
export const facetDropped: Rewriting = (model) =>
  facets.flatMap((facet) =>
    facetsNamed(model, facet).map(({ field, constraint }) => ({
      model: withFacets(model, field.path, { [facet]: undefined }),
      words: `${facet} is missing`,
      constraint: constraint.id,
    })),
  );

/** What a kind asks for by itself is not there: its grammar, one line, a list of codes. */
export const formDropped: Rewriting = (model) =>
  model.constraints
    .filter(
      ({ id, facet, owner }) =>
        facet &&
        [...valued(model), ...listed(model)].some(({ path }) => path === owner) &&
        /\.(?:format|lines|enumeration|precision|scale)$/.test(id),
    )
    .map(({ id }) => ({
      model: withPredicate(model, id, null),
      words: `${id.slice(id.lastIndexOf('.') + 1)} is missing`,
      constraint: id,
    }));

/** A rule over several fields, or about one, is not there. */
export const ruleDropped: Rewriting = (model) =>
  namedRules(model).map(({ id }) => ({
    model: withPredicate(model, id, null),
    words: 'the rule is missing',
    constraint: id,
  }));

/** A value that must be given need not be. */
export const requiredDropped: Rewriting = (model) =>
  valued(model)
    .filter(({ optional }) => !optional)
    .flatMap(({ path }) => {
      const id = idOf(model, path, 'required');
      if (!model.constraints.some((one) => one.id === id)) return [];
      const loose = withField(model, path, (field) => ({ ...field, optional: true }));
      return [{ model: withPredicate(loose, id, null), words: 'nothing asks for a value', constraint: id }];
    });

/** A value that need not be given must be. */
export const requiredAdded: Rewriting = (model) =>
  valued(model)
    .filter(({ optional, path }) => optional && !/[.[]/.test(path))
    .flatMap(({ path }) => {
      const type = model.constraints.find(({ id }) => id === idOf(model, path, 'type'));
      if (type === undefined) return [];
      const id = idOf(model, path, 'required');
      const tight = withField(model, path, (field) => ({ ...field, optional: false }));
      const at = tight.constraints.findIndex((one) => one.id === type.id);
      const required = { ...type, id, stage: 'presence' as const, predicate: { op: 'given' as const, of: path } };
      const constraints = [...tight.constraints.slice(0, at), required, ...tight.constraints.slice(at)];
      return [
        { model: { ...tight, constraints }, words: 'a value is asked for that need not be given', constraint: type.id },
      ];
    });

/** What the tables hold in the place of a secret is not checked. */
export const storedFormUnchecked: Rewriting = (model) =>
  model.constraints.flatMap(({ id, owner, facet, predicate }) => {
    if (!facet || predicate.op === 'typed' || secretIn(owner, model.fields) === undefined) return [];
    const name = id.slice(id.lastIndexOf('.') + 1);
    const loose = Object.hasOwn(fieldAt(model, owner).facets, name)
      ? withFacets(model, owner, { [name]: undefined })
      : withPredicate(model, id, null);
    return [{ model: loose, words: `nothing checks ${name} of what is stored`, constraint: id }];
  });
