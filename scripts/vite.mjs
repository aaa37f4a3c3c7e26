// Starts Vite's development server from the web package, wherever its packages were installed.
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { root } from './lib.mjs';

const require = createRequire(join(root, 'web/package.json'));
const { createServer } = await import(pathToFileURL(require.resolve('vite')).href);
const server = await createServer({ root: join(root, 'web'), configFile: join(root, 'web/vite.config.ts') });
await server.listen();
server.printUrls();
