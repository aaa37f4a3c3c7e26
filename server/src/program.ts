import { existsSync } from 'node:fs';
import { join } from 'node:path';

/** The bundle of a program: in the caller's folder once built, where VIGILUM_PROGRAMS says in the tests, else null. */
export function bundled(name: string, beside?: string): string | null {
  const folders = [beside, process.env.VIGILUM_PROGRAMS].filter((folder) => folder !== undefined);
  return folders.map((folder) => join(folder, `${name}.js`)).find(existsSync) ?? null;
}
