import { createJiti } from 'jiti';

/**
 * Loads a module of the project, TypeScript or JavaScript, as it is on the disk now. What it imports from `echo-rule`
 * is this very copy, installed or not.
 */
export async function loadModule(file: string): Promise<{ readonly [name: string]: unknown }> {
  // Imported here, not above: the layers import this file.
  const [face, config, layers] = await Promise.all([
    import('../index.js'),
    import('../config.js'),
    import('./index.js'),
  ]);
  const jiti = createJiti(import.meta.url, {
    moduleCache: false,
    fsCache: false,
    virtualModules: { 'echo-rule': face, 'echo-rule/config': config, 'echo-rule/layers': layers },
  });
  return jiti.import(file);
}
