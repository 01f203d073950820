import { ProblemError, problems } from '../core/messages/index.js';
import { allFields } from '../core/model/index.js';
import { explainField } from '../core/review/index.js';
import { explainText } from '../report/index.js';
import type { Project } from './project.js';
import { shortener, type Terminal } from './terminal.js';

export interface ExplainOptions {
  readonly format: 'text' | 'json';
}

/** One field: its rule in every layer, side by side, with values at its edges. */
export function explain(project: Project, named: string, options: ExplainOptions, terminal: Terminal): number {
  const { model, path } = fieldNamed(named, project);
  const explained = explainField(path, model, project.schema);
  terminal.out(
    options.format === 'json'
      ? `${shortener(terminal)(JSON.stringify(explained, null, 2))}\n`
      : explainText(explained, terminal.look),
  );
  return 0;
}

/** A field by its full name, `firing.pieces`; or by its path alone, where one ruleset only has such a field. */
export function fieldNamed(named: string, { schema }: Project) {
  const fields = schema.flatMap((model) => allFields(model).map(({ path }) => ({ model, path })));
  const full = fields.filter(({ model, path }) => `${model.ruleset}.${path}` === named);
  const found = full.length > 0 ? full : fields.filter(({ path }) => path === named);
  const [only, ...more] = found;
  const namesOf = (list: typeof fields) => list.map(({ model, path }) => `${model.ruleset}.${path}`).join(', ');
  if (only === undefined) throw new ProblemError([problems.fieldUnknown(null, named, namesOf(fields))]);
  if (more.length > 0) throw new ProblemError([problems.fieldAmbiguous(null, named, namesOf(found))]);
  return only;
}
