import { execFile } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, afterEach, beforeAll, describe, expect, it } from '@jest/globals';
import { bundled } from '../program.ts';
import { endServers, startServer } from './startedServer.ts';

// `npm run account`, as a program of its own on a folder of its own: alone, and beside the server that has the folder open.

const parent = mkdtempSync(join(tmpdir(), 'vigilum-account-'));
const folder = join(parent, 'own');
afterAll(() => rmSync(parent, { recursive: true, force: true }));
afterEach(endServers);

interface Said {
  code: number;
  out: string;
  wrong: string;
}

const account = (...args: string[]): Promise<Said> =>
  new Promise((done) => {
    execFile(
      process.execPath,
      [bundled('account')!, ...args],
      { env: { ...process.env, DATA_DIR: folder, NODE_OPTIONS: '' } },
      (error, out, wrong) => done({ code: error ? Number(error.code) : 0, out, wrong }),
    );
  });
const passwordIn = ({ out }: Said): string => /signs in with the password (\S+)/.exec(out)?.[1] ?? '';
const codeIn = ({ out }: Said): string => /first account: (\S+)/.exec(out)?.[1] ?? '';

/** Asks a server that runs from this machine, as a stranger does. */
const ask = (address: string, method: string, path: string, body?: object, cookie = 'vigilum=out') =>
  fetch(`${address}/api${path}`, {
    method,
    headers: { cookie, ...(body ? { 'content-type': 'application/json' } : {}) },
    ...(body ? { body: JSON.stringify(body) } : {}),
  });

let code: string;
let onas: string;

describe('on a folder that nobody has open', () => {
  it('says how it is used, and touches nothing', async () => {
    for (const args of [
      [],
      ['password'],
      ['password', '  '],
      ['remove', 'Ona'],
      ['add', 'Ona', '--role', 'king'],
    ]) {
      const said = await account(...args);
      expect([said.code, said.out]).toEqual([1, '']);
      expect(said.wrong).toContain('npm run account -- add "Name"');
    }
    const none = await account('list');
    expect([none.code, none.wrong]).toEqual([1, `There is no data folder ${folder}.\n`]);
    expect((await account('password', 'Ona')).wrong).toContain('There is no data folder');
  });

  it('tells the code for the first account, the same until it is used', async () => {
    const said = await account('add');
    code = codeIn(said);
    expect([said.code, code.length > 8]).toEqual([0, true]);
    expect(codeIn(await account('add'))).toBe(code);
    expect((await account('list')).out).toBe('Nobody has an account yet.\n');
  });
});

describe('beside the server', () => {
  let address: string;
  let said: () => string;
  beforeAll(async () => {
    ({ address, said } = await startServer({ DATA_DIR: folder }));
  }, 90_000);

  it('tells the same code, and none once it was used', async () => {
    // The server prints the code after its address.
    while (!said().includes('Nobody has an account')) await new Promise((r) => setTimeout(r, 20));
    expect(said()).toContain(code);
    expect(codeIn(await account('add'))).toBe(code);
    const first = { name: 'Ona Owner', password: 'seven quiet lanterns' };
    expect((await ask(address, 'POST', '/first-account', first)).status).toBe(403);
    expect((await ask(address, 'POST', '/first-account', { ...first, code: 'wrong' })).status).toBe(403);
    const made = await ask(address, 'POST', '/first-account', { ...first, code });
    expect(made.status).toBe(201);
    const cookie = made.headers.get('set-cookie')!.split(';')[0]!;
    expect((await account('list')).out).toBe('Ona Owner (owner)\n');
    const again = await account('add');
    expect([again.code, again.wrong]).toEqual([1, expect.stringContaining('There is an account already')]);
    expect((await account('add', 'Gil Guest')).wrong).toContain('Vigilum is running');
    const nobody = await account('password', 'Nobody');
    expect([nobody.code, nobody.wrong]).toEqual([1, expect.stringContaining('Nobody here is called Nobody')]);
    // A new password signs out everybody who used the old one.
    const changed = await account('password', 'ona owner');
    onas = passwordIn(changed);
    expect([changed.code, onas.length > 8]).toEqual([0, true]);
    expect((await ask(address, 'GET', '/classes', undefined, cookie)).status).toBe(401);
    const signIn = (password: string) => ask(address, 'POST', '/sessions', { name: 'Ona Owner', password });
    expect([(await signIn(first.password)).status, (await signIn(onas)).status]).toEqual([401, 201]);
  }, 90_000);
});

describe('after the server', () => {
  it('adds people and changes passwords, which the server then takes', async () => {
    const gil = await account('add', 'Gil Guest', '--role', 'guest');
    const ona = await account('password', 'Ona Owner');
    expect((await account('list')).out).toBe('Ona Owner (owner)\nGil Guest (guest)\n');
    expect((await account('add', 'Gil Guest')).code).toBe(1);
    const { address } = await startServer({ DATA_DIR: folder });
    const status = async (name: string, password: string) =>
      (await ask(address, 'POST', '/sessions', { name, password })).status;
    expect([
      await status('Gil Guest', passwordIn(gil)),
      await status('Ona Owner', passwordIn(ona)),
      await status('Ona Owner', onas),
    ]).toEqual([201, 201, 401]);
  }, 90_000);
});
