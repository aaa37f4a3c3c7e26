// Binds the language's own globals once a module, for code that runs in a test's sandbox: there every look at a global asks the
// sandbox's keeper first, which makes loops over numbers several times slower than in the application.
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';

const GLOBALS = [
  ...['Math', 'Number', 'Array', 'Object', 'String', 'JSON', 'Map', 'Set', 'WeakMap'],
  ...['Float64Array', 'Float32Array', 'Uint8Array', 'Uint16Array', 'Int32Array'],
  ...['Infinity', 'NaN', 'undefined'],
];

/** Part of the key under which a transformed file is kept. */
export const boundVersion = createHash('sha256')
  .update(readFileSync(import.meta.filename))
  .digest('hex');

/** Binds on the first line, so that the lines of an error stay where they are; names that the module has itself are left. */
export function bindGlobals(code) {
  const used = GLOBALS.filter((name) => {
    const own = `import[^;]*\\b${name}\\b|(function|class)\\s+${name}\\b|\\b${name}\\s*=[^=]`;
    return new RegExp(`\\b${name}\\b`).test(code) && !new RegExp(own).test(code);
  });
  return used.length ? `const { ${used.join(', ')} } = globalThis; ${code}` : code;
}
