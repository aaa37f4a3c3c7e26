import { spawn, type ChildProcess } from 'node:child_process';
import { bundled } from '../program.ts';

const started: ChildProcess[] = [];

/** Starts the real server, with this in its environment, and waits for its address. What it said comes back where it did not start. */
export function startServer(
  env: Record<string, string>,
): Promise<{ child: ChildProcess; address: string; said: () => string }> {
  const child = spawn(process.execPath, [bundled('main')!], {
    env: { ...process.env, PORT: '0', NODE_OPTIONS: '', ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  started.push(child);
  return new Promise((resolve, reject) => {
    let said = '';
    const listen = (chunk: Buffer) => {
      said += chunk.toString();
      const address = /http:\/\/[^\s/]+/.exec(said)?.[0];
      if (address) resolve({ child, address, said: () => said });
    };
    child.stdout.on('data', listen);
    child.stderr.on('data', listen);
    child.on('exit', (code) => reject(new Error(`exit ${code}: ${said}`)));
  });
}

/** Ends every server that a test started, and waits until they have gone. */
export async function endServers(): Promise<void> {
  await Promise.all(
    started.splice(0).map(
      (child) =>
        new Promise<void>((gone) => {
          if (child.exitCode !== null || child.signalCode !== null) return gone();
          child.once('close', () => gone());
          child.kill('SIGKILL');
        }),
    ),
  );
}
