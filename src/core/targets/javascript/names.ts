import { runtime } from './runtime/index.js';

/** Words that can't name a variable in a module (ECMA-262, reserved words and strict mode), and those the module uses. */
const TAKEN = `arguments await break case catch class const continue debugger default delete do else enum eval export
  extends false finally for function if implements import in instanceof interface let new null package private protected
  public return static super switch this throw true try typeof undefined var void while with yield async of NaN Infinity
  check checkAsync derive fields input how count form violations strange sent known client asked value today moment declared
  shape shapes subjects examine item item2 item3 item4 one one1 one2 one3 at1 at2 at3 key raw index record
  limitsRule limitsMessage Array Number Object String Math Map Set Date BigInt Intl RegExp Promise globalThis
  __name`.split(/\s+/);

/** Gives each name of a module once. */
export class Names {
  readonly #taken = new Set([...TAKEN, ...Object.keys(runtime)]);

  /** The wanted name, with a mark behind it where it is taken. */
  take(wanted: string): string {
    let name = wanted.replace(/[^A-Za-z0-9_$]/g, '');
    while (this.#taken.has(name)) name += '_';
    this.#taken.add(name);
    return name;
  }
}

/** Parts of a path or id as one name: `shelf.bay` becomes `shelfBay`, an item of `helpers` `helpersItem`. */
export function joinedName(...parts: readonly string[]): string {
  const words = parts.flatMap((part) => part.replaceAll('[]', '.item').split(/[.\-_]/)).filter((word) => word !== '');
  return words.map((word, at) => (at === 0 ? word : word.charAt(0).toUpperCase() + word.slice(1))).join('');
}
