// Before the unit tests: what they start as processes is bundled, as in the application. From the sources each start would
// compile everything first, and run slower.
import { join } from 'node:path';
import { root } from './lib.mjs';
import { applicationPrograms, bundleServer } from './serverBundle.mjs';

export default async function testPrograms() {
  const out = join(root, '.cache/programs');
  await bundleServer(out, {
    ...applicationPrograms,
    check: 'server/src/check/run.ts',
    harbourProofs: 'server/src/test/harbourProofs.ts',
    stuck: 'server/src/test/stuck.ts',
    taskVerdicts: 'server/src/test/taskVerdicts.ts',
  });
  process.env.VIGILUM_PROGRAMS = out;
}
