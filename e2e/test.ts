import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test as base } from '@playwright/test';

export {
  expect,
  type Browser,
  type BrowserContext,
  type BrowserContextOptions,
  type Locator,
  type Page,
} from '@playwright/test';

/** A server of the built application on a demo of its own. It can be killed and started again on the same data. */
export interface DemoServer {
  url: string;
  kill(): Promise<void>;
  start(env?: Record<string, string>): Promise<void>;
  /** What it has printed since it was started. */
  printed(): string;
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

/** A server that is not started yet; `demo` false: on an empty folder it begins with nothing but what ships. */
export function demoServer(port: number, folder: string, demo = true): DemoServer {
  const url = `http://127.0.0.1:${port}`;
  let process_: ChildProcess | null = null;
  let printed = '';
  return {
    printed: () => printed,
    url,
    async start(env = {}) {
      process_ = spawn(process.execPath, ['server/dist/main.js'], {
        cwd: root,
        env: { ...process.env, VIGILUM_DEMO: demo ? '1' : '', PORT: String(port), DATA_DIR: folder, ...env },
        stdio: ['ignore', 'pipe', 'inherit'],
      });
      printed = '';
      process_.stdout!.on('data', (chunk: Buffer) => (printed += chunk.toString()));
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

/**
 * Files of tests that leave nothing behind. Whoever comes after any other one gets a demo as new: which files one worker meets, and in
 * which order, differs from machine to machine, and no test may hang on it.
 */
const TIDY = /(look|keyboard|sameEverywhere)\.spec\.ts$/;

/** The demo of one worker. */
class Demo {
  readonly server: DemoServer;
  private readonly folder = mkdtempSync(join(tmpdir(), 'vigilum-e2e-'));
  private file = '';

  constructor(port: number) {
    this.server = demoServer(port, join(this.folder, 'data'));
  }

  async readyFor(file: string): Promise<void> {
    if (file === this.file) return;
    const used = this.file !== '';
    const fresh = used && !TIDY.test(this.file);
    this.file = file;
    if (fresh) {
      await this.server.kill();
      rmSync(join(this.folder, 'data'), { recursive: true, force: true });
    }
    if (fresh || !used) await this.server.start();
  }

  async end(): Promise<void> {
    await this.server.kill();
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/** Every worker has a server of its own; its tests take turns, each with a team of its own. */
export const test = base.extend<{ server: DemoServer; keepsPolicy: boolean }, { demo: Demo }>({
  demo: [
    async ({}, use, { parallelIndex }) => {
      const demo = new Demo(FIRST_PORT + parallelIndex);
      await use(demo);
      await demo.end();
    },
    { scope: 'worker' },
  ],
  server: [
    async ({ demo }, use, { file }) => {
      await demo.readyFor(file);
      await use(demo.server);
    },
    { auto: true },
  ],
  baseURL: async ({ server }, use) => {
    await use(server.url);
  },
  // The browser's own reader of XML tells a fault by an element with an inline style, which no page can help.
  keepsPolicy: [true, { option: true }],
  // Whatever is done on a page, it keeps to its own policy: no style or script from elsewhere than it may come from.
  page: async ({ page, keepsPolicy }, use) => {
    const against: string[] = [];
    page.on('console', (message) => {
      if (message.text().includes('Content Security Policy')) against.push(message.text().slice(0, 300));
    });
    await use(page);
    if (keepsPolicy) expect(against).toEqual([]);
  },
});
