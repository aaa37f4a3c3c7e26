// Builds the server into server/dist and the pages into web/dist.
import { cpSync, readFileSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build as bundle } from 'esbuild';
import { root } from './lib.mjs';

const out = join(root, 'server/dist');
rmSync(out, { recursive: true, force: true });
const { dependencies } = JSON.parse(readFileSync(join(root, 'server/package.json'), 'utf8'));
await bundle({
  entryPoints: {
    main: join(root, 'server/src/main.ts'),
    standIn: join(root, 'server/src/devices/standIn.ts'),
    tasks: join(root, 'server/src/jobs/tasks.ts'),
  },
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

const require = createRequire(join(root, 'web/package.json'));
const { build: buildPages } = await import(pathToFileURL(require.resolve('vite')).href);
await buildPages({
  root: join(root, 'web'),
  configFile: join(root, 'web/vite.config.ts'),
  logLevel: 'warn',
});
// The formats that go in and out, for whoever writes files for them.
cpSync(join(root, 'docs/schemas'), join(root, 'web/dist/schemas'), { recursive: true });
