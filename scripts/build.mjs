// Builds the server into server/dist and the pages into web/dist.
import { cpSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { root } from './lib.mjs';
import { applicationPrograms, bundleServer } from './serverBundle.mjs';

await bundleServer(join(root, 'server/dist'), applicationPrograms);

const require = createRequire(join(root, 'web/package.json'));
const { build: buildPages } = await import(pathToFileURL(require.resolve('vite')).href);
await buildPages({
  root: join(root, 'web'),
  configFile: join(root, 'web/vite.config.ts'),
  logLevel: 'warn',
});
// The formats that go in and out, for whoever writes files for them.
cpSync(join(root, 'docs/schemas'), join(root, 'web/dist/schemas'), { recursive: true });
