// npm run licences: what the program is made of that others wrote, and under which licence. `-- --check` ends with 1 where one is not
// among those that a school may run and pass on without further duties than keeping the notice.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './lib.mjs';

const FINE = new Set([
  '0BSD',
  'Apache-2.0',
  'BlueOak-1.0.0',
  'BSD-2-Clause',
  'BSD-3-Clause',
  'BSL-1.0',
  'CC-BY-4.0',
  'CC0-1.0',
  'ISC',
  'MIT',
  'MIT-0',
  // Binds changes to its own files, which are used as they come.
  'MPL-2.0',
  'OFL-1.1',
  'PostgreSQL',
  'Python-2.0',
  'Unlicense',
  'Zlib',
]);

/** Whether one may choose a fine licence out of an expression such as "(MIT OR GPL-3.0)", or all of an "AND" are fine. */
const isFine = (licence) =>
  licence
    .replaceAll(/[()]/g, '')
    .split(/\s+OR\s+/i)
    .some((one) => one.split(/\s+AND\s+/i).every((part) => FINE.has(part.trim())));

const { packages } = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8'));
const used = Object.entries(packages)
  .filter(([path, { dev, link }]) => path.includes('node_modules/') && !dev && !link)
  .map(([path, { version, license }]) => ({
    name: path.slice(path.lastIndexOf('node_modules/') + 'node_modules/'.length),
    version,
    licence: license ?? 'not said',
  }))
  .sort((a, b) => a.name.localeCompare(b.name));
const others = used.filter(({ licence }) => !isFine(licence));
if (process.argv.includes('--check')) {
  for (const { name, version, licence } of others) console.error(`${name} ${version}: ${licence}`);
  console.log(`${used.length} packages, ${others.length} with a licence to look at`);
  process.exit(others.length > 0 ? 1 : 0);
}
console.log('| package | version | licence |\n| --- | --- | --- |');
for (const { name, version, licence } of used) console.log(`| ${name} | ${version} | ${licence} |`);
