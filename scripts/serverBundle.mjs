// Bundles programs of the server: for the application, and for the tests that start them as processes.
import { cpSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';
import { root } from './lib.mjs';

/** The programs of which the application consists, by the names of their bundles. */
export const applicationPrograms = {
  main: 'server/src/main.ts',
  standIn: 'server/src/devices/standIn.ts',
  tasks: 'server/src/jobs/tasks.ts',
  watchdog: 'server/src/watchdog.ts',
  worker: 'server/src/jobs/worker.ts',
  backup: 'server/src/backup/cli.ts',
  account: 'server/src/access/cli.ts',
};

/** Bundles programs, given by name and source, into a folder that is made anew, with the migrations beside them. */
export async function bundleServer(out, programs) {
  rmSync(out, { recursive: true, force: true });
  const { dependencies } = JSON.parse(readFileSync(join(root, 'server/package.json'), 'utf8'));
  await build({
    absWorkingDir: root,
    entryPoints: programs,
    outdir: out,
    bundle: true,
    format: 'esm',
    platform: 'node',
    target: 'node20',
    external: Object.keys(dependencies).filter((name) => !name.startsWith('@vigilum/')),
    // Some packages of the core are CommonJS and ask for Node's own modules.
    banner: {
      js: "import { createRequire as __createRequire } from 'node:module'; const require = __createRequire(import.meta.url);",
    },
    logLevel: 'warning',
  });
  cpSync(join(root, 'server/src/db/migrations'), join(out, 'migrations'), { recursive: true });
}
