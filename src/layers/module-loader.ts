import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { createJiti } from 'jiti';

const entry = (name: string): string => {
  const built = fileURLToPath(new URL(`../${name}.js`, import.meta.url));
  return existsSync(built) ? built : fileURLToPath(new URL(`../${name}.ts`, import.meta.url));
};

/**
 * Loads a module of the project, TypeScript or JavaScript, as it is on the disk now. What it imports from `echo-rule`
 * is this very copy, installed or not.
 */
export async function loadModule(file: string): Promise<{ readonly [name: string]: unknown }> {
  const jiti = createJiti(import.meta.url, {
    moduleCache: false,
    fsCache: false,
    alias: {
      'echo-rule/config': entry('config'),
      'echo-rule/layers': entry('layers/index'),
      'echo-rule': entry('index'),
    },
  });
  return jiti.import(file);
}
