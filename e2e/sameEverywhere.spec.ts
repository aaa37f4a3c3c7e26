import { execFile } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { promisify } from 'node:util';
import { build } from 'esbuild';
import type { VerdictPrint } from '../server/src/test/verdictPrints.ts';
import { expect, test } from './test.ts';

const bundle = (format: 'esm' | 'iife', outfile: string) =>
  build({
    entryPoints: [join(import.meta.dirname, '../server/src/test/verdictPrints.ts')],
    bundle: true,
    format,
    platform: 'neutral',
    mainFields: ['module', 'main'],
    globalName: 'prints',
    outfile,
    logLevel: 'warning',
  });

test('a lesson’s runs come out the same in Node and in the browser, from setup to verdict', async ({
  page,
}, info) => {
  await bundle('esm', info.outputPath('prints.mjs'));
  await bundle('iife', info.outputPath('prints.js'));
  const RUNS = 1;
  // In a process of its own: both sides run at once, and as they run in the application.
  const tell = `import { verdictPrints } from ${JSON.stringify(pathToFileURL(info.outputPath('prints.mjs')).href)};
    process.stdout.write(JSON.stringify(verdictPrints(${RUNS})));`;
  const inNode = promisify(execFile)(process.execPath, ['--input-type=module', '--eval', tell], {
    maxBuffer: 1 << 26,
  });
  await page.goto('/kits');
  const source = readFileSync(info.outputPath('prints.js'), 'utf8');
  await page.evaluate(`(() => { ${source}\nwindow.prints = prints; })()`);
  const there = await page.evaluate(
    (runs) =>
      (
        window as unknown as { prints: { verdictPrints: (runs: number) => VerdictPrint[] } }
      ).prints.verdictPrints(runs),
    RUNS,
  );
  const here = JSON.parse((await inNode).stdout) as VerdictPrint[];
  expect(here.length).toBeGreaterThan(75);
  expect(there).toEqual(here);
});
