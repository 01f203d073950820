import type { Schema } from '../../declare/index.js';
import { formName, isSent, plainFields } from '../../model/index.js';
import type { MadeFile } from '../target.js';
import { starterText } from './form.js';
import { controlOf } from './types.js';

/** A starter form a ruleset, and the attributes of each control as data for forms that are written by hand. */
export function emitForms(schema: Schema): readonly MadeFile[] {
  return schema.flatMap((model): readonly MadeFile[] => [
    {
      path: `html/${model.ruleset}.html`,
      comment: ['<!-- ', ' -->'],
      from: [model.ruleset],
      text: starterText(model),
    },
    {
      path: `html/${model.ruleset}.attributes.js`,
      comment: ['// ', ''],
      from: [model.ruleset],
      text: attributesText(model),
    },
  ]);
}

function attributesText(model: Schema[number]): string {
  const controls = plainFields(model)
    .filter((field) => isSent(field) && field.enforcedIn.includes('client') && field.item === null)
    .map((field) => [formName(field.path), controlOf(field)] as const);
  return `/** The native control of each field: element, attributes, options. */
export const controls = ${JSON.stringify(Object.fromEntries(controls), null, 2)};
`;
}
