import { type Refusal, type RefusalKind, unnamed } from './refusal.js';

/** What MariaDB reports. Its driver names some numbers after another server's, so only the number counts. */
interface EngineError {
  readonly errno: number;
  readonly message: string;
  readonly sqlMessage?: string;
}

/** Where a message has the names: quoted as the engine quotes them. */
interface Shape {
  readonly kind: RefusalKind;
  readonly constraint?: RegExp;
  readonly column?: RegExp;
}

const foreignKey = /CONSTRAINT `((?:[^`]|``)+)` FOREIGN KEY/;
/** Written ``column `database`.`table`.`column` ``, or `Column 'column'`. */
const named = /column (?:`[^`]*`\.`[^`]*`\.`((?:[^`]|``)+)`|'((?:[^']|'')+)')/i;

/** The numbers of refused values; of MySQL too where they differ, which was not measured. */
const numbers: { readonly [errno: number]: Shape } = {
  1048: { kind: 'required', column: named },
  1364: { kind: 'required', column: /Field '((?:[^']|'')+)'/ },
  1062: { kind: 'unique', constraint: /for key '(?:[^'.]*\.)?([^']+)'$/ },
  1586: { kind: 'unique', constraint: /for key '(?:[^'.]*\.)?([^']+)'$/ },
  4025: { kind: 'check', constraint: /CONSTRAINT `((?:[^`]|``)+)` failed/ },
  3819: { kind: 'check', constraint: /constraint '([^']+)' is violated/i },
  1452: { kind: 'foreignKey', constraint: foreignKey },
  1451: { kind: 'foreignKey', constraint: foreignKey },
  1216: { kind: 'foreignKey' },
  1217: { kind: 'foreignKey' },
  1406: { kind: 'length', column: named },
  1264: { kind: 'length', column: named },
  1265: { kind: 'length', column: named },
  1292: { kind: 'type', column: named },
  1366: { kind: 'type', column: named },
  1411: { kind: 'type' },
  4038: { kind: 'type' },
  1690: { kind: 'type' },
  1139: { kind: 'check' },
  1644: { kind: 'unknown' },
};

export function mariadbRefusal(error: object): Refusal | null {
  if (!isEngineError(error)) return null;
  const shape = numbers[error.errno];
  if (shape === undefined) return null;
  const message = error.sqlMessage ?? error.message;
  const find = (pattern: RegExp | undefined) =>
    pattern === undefined
      ? undefined
      : pattern
          .exec(message)
          ?.slice(1)
          .find((part) => part !== undefined);
  const constraint = find(shape.constraint)?.replaceAll('``', '`') ?? null;
  const column = find(shape.column)?.replaceAll('``', '`');
  return { ...unnamed, kind: shape.kind, constraint, columns: column === undefined ? [] : [column], message };
}

function isEngineError(error: object): error is EngineError {
  return 'errno' in error && typeof error.errno === 'number' && 'sqlState' in error;
}
