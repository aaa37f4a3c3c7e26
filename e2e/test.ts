import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as base } from '@playwright/test';

export { expect, type Browser, type BrowserContext, type Locator, type Page } from '@playwright/test';

/** A server of the built application on a demo of its own. It can be killed and started again on the same data. */
export interface DemoServer {
  url: string;
  kill(): Promise<void>;
  start(): Promise<void>;
}

const root = join(import.meta.dirname, '..');
/** Two servers at a time, one a worker, each on a port of its own. */
const FIRST_PORT = 4477;

async function answers(url: string): Promise<boolean> {
  return fetch(`${url}/api/health`).then(
    (answer) => answer.ok,
    () => false,
  );
}

function demoServer(port: number, folder: string): DemoServer {
  const url = `http://127.0.0.1:${port}`;
  let process_: ChildProcess | null = null;
  return {
    url,
    async start() {
      process_ = spawn(process.execPath, ['server/dist/main.js'], {
        cwd: root,
        env: { ...process.env, VIGILUM_DEMO: '1', PORT: String(port), DATA_DIR: folder },
        stdio: ['ignore', 'ignore', 'inherit'],
      });
      for (let i = 0; i < 600; i++) {
        if (await answers(url)) return;
        await new Promise((done) => setTimeout(done, 100));
      }
      throw new Error(`The server on ${url} did not start.`);
    },
    async kill() {
      const running = process_;
      process_ = null;
      if (!running || running.exitCode !== null) return;
      await new Promise<void>((done) => {
        running.once('exit', () => done());
        running.kill('SIGKILL');
      });
    },
  };
}

/** Every worker has a server and a database of its own; its tests take turns, each with a team of its own. */
export const test = base.extend<object, { server: DemoServer }>({
  server: [
    async ({}, use, { parallelIndex }) => {
      const folder = mkdtempSync(join(tmpdir(), 'vigilum-e2e-'));
      const server = demoServer(FIRST_PORT + parallelIndex, join(folder, 'data'));
      await server.start();
      await use(server);
      await server.kill();
      rmSync(folder, { recursive: true, force: true });
    },
    { scope: 'worker', auto: true },
  ],
  baseURL: async ({ server }, use) => {
    await use(server.url);
  },
});
