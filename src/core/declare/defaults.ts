import { canonicalValue, decodeValue } from '../kinds/index.js';
import { type Problem, problems } from '../messages/index.js';
import { allFields, type Field } from '../model/index.js';

/** Defaults that are no value of their field's kind, or would be stored in another form. */
export function brokenDefaults(fields: { readonly [name: string]: Field }): readonly Problem[] {
  return allFields({ fields }).flatMap((field) => {
    if (field.default === null) return [];
    const decoded = decodeValue(field, field.default, 'json');
    const value = 'value' in decoded ? canonicalValue(field, decoded.value) : null;
    if (value === field.default) return [];
    return [problems.defaultBroken(field.place, field.path, JSON.stringify(field.default), field.kind)];
  });
}
