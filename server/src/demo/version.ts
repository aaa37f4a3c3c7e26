import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/**
 * Changes whenever the program that fills the demo changes, so that its snapshot is built anew: the bundle's
 * own text once built, else the sources that it is made by.
 */
export function demoVersion(): string {
  const hash = createHash('sha256');
  if (import.meta.filename.endsWith('.js'))
    return hash.update(readFileSync(import.meta.filename)).digest('hex');
  for (const folder of [
    '.',
    '../classes',
    '../plan',
    '../starter',
    '../devices',
    '../robots',
    '../../../core/src',
  ].map((part) => join(import.meta.dirname, part))) {
    for (const file of readdirSync(folder, { recursive: true, encoding: 'utf8' }).sort()) {
      if (file.endsWith('.ts') && !file.includes('.test.')) hash.update(readFileSync(join(folder, file)));
    }
  }
  return hash.digest('hex');
}
