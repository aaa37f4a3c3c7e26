import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const root = join(import.meta.dirname, '../../..');
export const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));

export interface ServersOptions {
  port: number;
  /** More than one share a database of PostgreSQL. */
  servers: number;
  postgres: boolean;
  /** Processes that only prove, one at a time each; then the servers only answer pages. */
  workers: number;
}

/** The servers of an hour with what they stand on, all in a folder of their own. Whatever ends the process, nothing stays behind. */
export class Servers {
  private readonly running: ChildProcess[] = [];
  private readonly workers: ChildProcess[] = [];
  private readonly folder = mkdtempSync(join(tmpdir(), 'vigilum-hour-'));
  private readonly options: ServersOptions;
  private database: { url: string; stop: () => Promise<void> } | null = null;

  constructor(options: ServersOptions) {
    if (!existsSync(join(root, 'server/dist/main.js'))) {
      console.error('Build first: npm run build');
      process.exit(2);
    }
    this.options = options;
    process.on('exit', () => {
      for (const child of [...this.running, ...this.workers]) child.kill('SIGKILL');
    });
  }

  /** The address that the n-th page asks: pages stay with their server. */
  baseOf = (n: number): string => `http://127.0.0.1:${this.options.port + (n % this.options.servers)}`;

  /** Starts them all. PostgreSQL has everything that is acknowledged on the disk. */
  async startAll(): Promise<void> {
    const { postgres, servers, workers } = this.options;
    if (postgres) {
      const path = new URL('../../../scripts/postgres.mjs', import.meta.url).href;
      const { startPostgres } = (await import(path)) as {
        startPostgres: (options: { durable: boolean }) => Promise<{ url: string; stop: () => Promise<void> }>;
      };
      this.database = await startPostgres({ durable: true });
    }
    await Promise.all(Array.from({ length: servers }, (_, i) => this.start(i)));
    await Promise.all(Array.from({ length: workers }, () => this.startWorker()));
  }

  async start(i: number): Promise<void> {
    this.running[i] = spawn(process.execPath, ['server/dist/main.js'], {
      cwd: root,
      env: {
        ...process.env,
        VIGILUM_DEMO: '1',
        PORT: String(this.options.port + i),
        DATA_DIR: join(this.folder, `data${i}`),
        ...(this.database ? { DATABASE_URL: this.database.url } : {}),
        METRICS_PORT: String(this.metricsPort(i)),
        ...(this.options.workers > 0 ? { PROOFS_AT_ONCE: '0' } : {}),
      },
      stdio: ['ignore', 'ignore', 'inherit'],
    });
    for (let n = 0; n < 600; n++) {
      const answer = await fetch(`${this.baseOf(i)}/api/health`).catch(() => null);
      if (answer?.ok) return;
      await wait(100);
    }
    throw new Error('The server did not start.');
  }

  get count(): number {
    return this.options.servers;
  }

  stop(i: number, signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
    return new Promise((done) => {
      this.running[i]!.once('exit', () => done());
      this.running[i]!.kill(signal);
    });
  }

  async stopAll(): Promise<void> {
    await Promise.all(this.running.map((_, i) => this.stop(i)));
    for (const worker of this.workers) worker.kill('SIGTERM');
    await this.database?.stop();
    rmSync(this.folder, { recursive: true, force: true });
  }

  /** Memory of the servers together, MB, as the system tells it. */
  memoryMb = (): number =>
    this.running.reduce((sum, { pid }) => {
      const status = readFileSync(`/proc/${pid}/status`, 'utf8');
      return sum + Number(/VmRSS:\s+(\d+) kB/.exec(status)?.[1] ?? 0) / 1024;
    }, 0);

  /** The longest time in which the event loop of any did nothing else since it was last asked, ms. */
  async stallMs(): Promise<number> {
    return 1000 * Math.max(...(await this.metric('nodejs_eventloop_lag_max_seconds')));
  }

  /** Transactions that were begun once more. */
  async begunAgain(): Promise<number> {
    return (await this.metric('vigilum_transactions_again_total')).reduce((sum, n) => sum + n, 0);
  }

  private metricsPort = (i: number): number => this.options.port + 50 + i;

  /** A number of the metrics of every server. */
  private metric = (name: string): Promise<number[]> =>
    Promise.all(
      this.running.map(async (_, i) => {
        const text = await (await fetch(`http://127.0.0.1:${this.metricsPort(i)}/metrics`)).text();
        return Number(new RegExp(`^${name} (\\S+)$`, 'm').exec(text)?.[1] ?? NaN);
      }),
    );

  private startWorker(): Promise<void> {
    return new Promise((ready) => {
      const worker = spawn(process.execPath, ['server/dist/worker.js'], {
        cwd: root,
        env: { ...process.env, DATABASE_URL: this.database!.url, PROOFS_AT_ONCE: '1' },
        stdio: ['ignore', 'pipe', 'inherit'],
      });
      this.workers.push(worker);
      worker.stdout.once('data', () => ready());
    });
  }
}
