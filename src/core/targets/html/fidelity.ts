import type { Schema } from '../../declare/index.js';
import {
  isScalar,
  isTextual,
  type KnownField,
  sampleOf,
  secondsOf,
  valueDomain,
  valueField,
} from '../../kinds/index.js';
import { type Constraint, type Entry, type Fidelity, fieldAt } from '../../model/index.js';
import { isMoment } from '../fractions.js';
import { everything } from '../target.js';
import { Drawn } from './drawn.js';
import { type Control, controlOf } from './types.js';

const exact: Fidelity = { is: 'exact' };

function absent(why: string): Fidelity {
  return { is: 'absent', why };
}

/** What native attributes alone say, with script off. */
export function ledgerOf(schema: Schema, wanted = everything): readonly Entry[] {
  return schema.flatMap((model) => {
    const drawn = new Drawn();
    return model.constraints.filter(wanted).map((constraint) => {
      const owner = constraint.owner === '' ? constraint.blame : constraint.owner;
      const field = owner === '' ? null : fieldAt(model, owner);
      const fidelity =
        field === null
          ? absent('a form sends its own controls and nothing else')
          : says(constraint, field, model, drawn);
      const becomes =
        field === null || fidelity.is === 'absent' ? null : attributesFor(constraint, drawn.control(field));
      return { constraint: constraint.id, target: 'html', becomes, fidelity };
    });
  });
}

function says(constraint: Constraint, field: KnownField, model: Schema[number], drawn: Drawn): Fidelity {
  const { facet, predicate, enforcedIn } = constraint;
  if (predicate.op === 'unique' || predicate.op === 'refersTo')
    return { is: 'absent', why: 'a page does not know the stored records', needs: 'store' };
  if (!facet) return absent('no attribute says anything of two fields; script does');
  if (!enforcedIn.includes('client')) return absent(`it is enforced in ${enforcedIn.join(' and ')} only`);
  if (field.generated !== null) return absent('nobody sends it');
  if (predicate.op === 'canonical') return absent('asked of stored rows; a page sends text as it was typed');
  if (!isScalar(field) || predicate.op === 'distinct')
    return absent('no attribute says anything of a group of controls');
  const name = facetName(constraint);
  if ((name === 'required' || name === 'must') && mayBeBlank(field, model))
    return absent('nothing of the group has to be filled in');
  const control = drawn.control(field);
  if (control.element === 'textarea') return textareaSays(name, field);
  return saysOfInput(name, valueField(field), drawn);
}

function saysOfInput(name: string, field: KnownField, drawn: Drawn): Fidelity {
  if (isTextual(field)) {
    const { without } = drawn.pattern(field);
    const isForm = ['pattern', 'format', 'charset'].includes(name);
    const isLength = name === 'minLength' || name === 'maxLength';
    const changes = field.facets.collapse === true || field.facets.unicode != null;
    return without !== null && (isForm || (isLength && changes)) ? absent(`it has ${without}`) : exact;
  }
  if (name === 'step' && drawn.control(field).attributes.step === undefined)
    return { is: 'absent', why: 'no attribute of the control says it', elsewise: true };
  if (secondsOf(field) === 'none') return exact;
  if (isMoment(valueDomain(field)) && (name === 'min' || name === 'max'))
    return { is: 'absent', why: 'no attribute of a text control says it', elsewise: true };
  if (isMoment(valueDomain(field)) && name === 'type')
    return { is: 'looser', why: 'the pattern knows no real days and hours', ...shownHour(field) };
  if (field.facets.precision !== undefined && (name === 'min' || name === 'max'))
    return { is: 'absent', why: 'a pattern of digits is not compared', elsewise: true };
  return exact;
}

/** An hour that no day has, in the form of the field. */
function shownHour(field: KnownField): { readonly shown?: string } {
  const sample = String(sampleOf(field, 0));
  return { shown: sample.replace(/[0-9]{2}(?=:[0-9]{2}:[0-9]{2})/, '29') };
}

/** In an optional record, or in a row of a list, a blank control says that nothing is there. */
function mayBeBlank({ path }: KnownField, model: Schema[number]): boolean {
  if (path.includes('[]')) return true;
  const above = path.split('.').slice(0, -1);
  return above.some((_, at) => fieldAt(model, above.slice(0, at + 1).join('.')).optional);
}

/** A textarea knows no `pattern`, and its lengths count what is trimmed later. */
function textareaSays(facet: string, field: KnownField): Fidelity {
  if (facet === 'required') return { is: 'looser', why: 'spaces satisfy the attribute', shown: '  ' };
  if (facet === 'type') return absent('no attribute forbids a character');
  if (facet === 'minLength' && !field.optional) {
    const shown = `${'a'.repeat(Math.max(Number(field.facets.minLength) - 1, 0))} `;
    return { is: 'looser', why: 'the attribute counts outer white space and UTF-16 units', shown };
  }
  const why =
    'the attributes maxlength and minlength count outer white space and UTF-16 units, and would refuse what is allowed';
  return facet === 'minLength' || facet === 'maxLength' ? { is: 'absent', why, would: 'stricter' } : absent(why);
}

/** The attributes that may hold a facet, beside `pattern`. */
const holding: { readonly [facet: string]: readonly string[] } = {
  required: ['required'],
  min: ['min'],
  max: ['max'],
  minLength: ['minlength'],
  lines: ['type'],
  type: ['type'],
  step: ['step', 'min'],
};

/** The control with those of its attributes that hold the constraint. */
function attributesFor(constraint: Constraint, control: Control): string {
  return tagText(control, [...(holding[facetName(constraint)] ?? []), 'pattern']);
}

function tagText({ element, attributes, options }: Control, wanted: readonly string[]): string {
  const names = wanted.filter((name) => attributes[name] !== undefined);
  const texts = names.map((name) => (attributes[name] === true ? name : `${name}="${attributes[name]}"`));
  const tag = element === 'checkbox' ? 'input' : element;
  const list = options === undefined ? '' : ` with ${options.length} options`;
  return `<${[tag, ...texts].join(' ')}>${list}`;
}

/** The attributes by which a control holds rules. */
const native = ['required', 'type', 'pattern', 'min', 'max', 'minlength', 'maxlength', 'step'];

/** A field's control with all the attributes that hold rules by themselves; null where it is a group of controls. */
export function nativeControl(field: KnownField): string | null {
  if (!isScalar(field) || field.generated !== null) return null;
  return tagText(controlOf(field), native);
}

/** The last part of a facet's id. */
function facetName({ id }: Constraint): string {
  return id.slice(id.lastIndexOf('.') + 1);
}
