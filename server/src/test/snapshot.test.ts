import { mkdtempSync, readdirSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from '@jest/globals';
import { snapshot } from '../db/snapshot.ts';

const cache = mkdtempSync(join(tmpdir(), 'snapshots-'));
afterAll(() => rmSync(cache, { recursive: true, force: true }));

describe('snapshots of a filled database', () => {
  it('of a name the last four stay, whatever else lies beside them', async () => {
    const old = Array.from({ length: 6 }, (_, k) => `demo-${String(k).padStart(16, '0')}.tar.gz`);
    const others = ['test-0123456789abcdef.tar.gz', 'demo-notes.tar.gz', 'demo-0123456789abcdef.tar.gz.77'];
    for (const [k, name] of [...old, ...others].entries()) {
      writeFileSync(join(cache, name), '');
      utimesSync(join(cache, name), 1000 + k, 1000 + k);
    }
    await snapshot('demo', 'one', cache);
    const made = readdirSync(cache).filter((name) => !old.includes(name) && !others.includes(name));
    expect(made).toHaveLength(1);
    expect(readdirSync(cache).sort()).toEqual([...made, ...old.slice(3), ...others].sort());
    // What is there is opened as it is.
    expect((await snapshot('demo', 'one', cache)).size).toBeGreaterThan(10_000);
    expect(readdirSync(cache)).toHaveLength(7);
  }, 60_000);
});
