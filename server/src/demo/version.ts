import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/**
 * Changes whenever the program that fills the demo changes, so that its snapshot is built anew: the bundle's
 * own text once built, else the sources of the core and of this folder.
 */
export function demoVersion(): string {
  const hash = createHash('sha256');
  if (import.meta.filename.endsWith('.js'))
    return hash.update(readFileSync(import.meta.filename)).digest('hex');
  for (const folder of [import.meta.dirname, join(import.meta.dirname, '../../../core/src')]) {
    for (const file of readdirSync(folder, { recursive: true, encoding: 'utf8' }).sort()) {
      if (file.endsWith('.ts') && !file.includes('.test.')) hash.update(readFileSync(join(folder, file)));
    }
  }
  return hash.digest('hex');
}
