import type { KnownField } from '../../kinds/index.js';
import { type Model, plainFields } from '../../model/index.js';

/** The fields of a table's columns: those in no list, records taken apart, each list as one column of JSON. */
export function storedFields(model: Pick<Model<KnownField['kind']>, 'fields'>): readonly KnownField[] {
  return plainFields(model).filter(({ enforcedIn }) => enforcedIn.includes('database'));
}

/** The optional record that a field is in, if it is in any: its fields' columns are NULL together. */
export function optionalAround(model: Model<KnownField['kind']>, path: string): KnownField | null {
  let fields: KnownField['fields'] = model.fields;
  let found: KnownField | null = null;
  for (const name of path.split('.').slice(0, -1)) {
    const record: KnownField | undefined = fields?.[name];
    if (record?.optional === true) found = record;
    fields = record?.fields ?? null;
  }
  return found;
}
