import type { Schema } from '../../declare/index.js';
import { type KnownField, valueField } from '../../kinds/index.js';
import { type Constraint, type Entry, type Fidelity, fieldAt } from '../../model/index.js';
import { textPattern } from './predicates.js';
import { type Control, controlOf } from './types.js';

const exact: Fidelity = { is: 'exact' };

function absent(why: string): Fidelity {
  return { is: 'absent', why };
}

/** What native attributes alone say, with script off. */
export function ledgerOf(schema: Schema): readonly Entry[] {
  return schema.flatMap((model) =>
    model.constraints.map((constraint) => {
      const field = constraint.blame === '' ? null : fieldAt(model, constraint.blame);
      const fidelity =
        field === null ? absent('a form sends its own controls and nothing else') : says(constraint, field);
      const becomes = field === null || fidelity.is === 'absent' ? null : attributesFor(constraint, controlOf(field));
      return { constraint: constraint.id, target: 'html', becomes, fidelity };
    }),
  );
}

function says(constraint: Constraint, field: KnownField): Fidelity {
  const { facet, predicate } = constraint;
  if (predicate.op === 'unique' || predicate.op === 'refersTo')
    return { is: 'absent', why: 'a page does not know the stored records', needs: 'store' };
  if (!facet) return absent('no attribute says anything of two fields; script does');
  if (predicate.op === 'canonical') return absent('asked of stored rows; a page sends text as it was typed');
  const name = facetName(constraint);
  if (controlOf(field).element === 'textarea') return textareaSays(name, field);
  const without = name === 'pattern' ? textPattern(valueField(field)).without : null;
  return without === null ? exact : absent(`the pattern has ${without}`);
}

/** A textarea knows no `pattern`, and its lengths count what is trimmed later. */
function textareaSays(facet: string, field: KnownField): Fidelity {
  if (facet === 'required') return { is: 'looser', why: 'spaces satisfy the attribute', shown: '  ' };
  if (facet === 'type') return absent('no attribute forbids a character');
  if (facet === 'minLength' && !field.optional) {
    const shown = `${'a'.repeat(Math.max(Number(field.facets.minLength) - 1, 0))} `;
    return { is: 'looser', why: 'the attribute counts outer white space and UTF-16 units', shown };
  }
  return absent('maxlength and minlength count outer white space and UTF-16 units, and would refuse what is allowed');
}

/** The attributes that may hold a facet, beside `pattern`. */
const holding: { readonly [facet: string]: readonly string[] } = {
  required: ['required'],
  min: ['min'],
  max: ['max'],
  minLength: ['minlength'],
  lines: ['type'],
  type: ['type'],
};

/** The control with those of its attributes that hold the constraint. */
function attributesFor(constraint: Constraint, { element, attributes, options }: Control): string {
  const names = [...(holding[facetName(constraint)] ?? []), 'pattern'].filter((name) => attributes[name] !== undefined);
  const texts = names.map((name) => (attributes[name] === true ? name : `${name}="${attributes[name]}"`));
  const tag = element === 'checkbox' ? 'input' : element;
  const list = options === undefined ? '' : ` with ${options.length} options`;
  return `<${[tag, ...texts].join(' ')}>${list}`;
}

/** The last part of a facet's id. */
function facetName({ id }: Constraint): string {
  return id.slice(id.lastIndexOf('.') + 1);
}
