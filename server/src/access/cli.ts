// npm run account -- list | add "Name" [--role owner] | password "Name", each with [--school name]: who may come in, for whoever can read the data folder or the database.
import { existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { accountRoles, type AccountRole } from '@vigilum/contract/roles';
import type { Accounts } from '@vigilum/contract/types';
import type { Database } from '../db/database.ts';
import { FolderInUse } from '../db/lock.ts';
import { migrate } from '../db/migrate.ts';
import { inSchool } from '../db/reach.ts';
import { schoolMeant } from '../schools/schools.ts';
import { closeStore, openStore } from '../db/store.ts';
import { FolderTrouble } from '../db/trouble.ts';
import { addAccount, setPassword } from './accounts.ts';
import { firstCode } from './firstCode.ts';
import { LOCAL_KEY_HEADER } from './localKey.ts';
import { spokenPassword } from './secrets.ts';

const USAGE = `Use: npm run account -- list
     npm run account -- add                the code by which the first account is made on the page
     npm run account -- add "Name" [--role ${accountRoles.join('|')}]
     npm run account -- password "Name"
     Where a database holds several schools: --school and its short name.`;

const say = (line: string) => process.stdout.write(`${line}\n`);
const nobody = (name: string) =>
  new FolderTrouble(`Nobody here is called ${name}. See: npm run account -- list`);
const told = (name: string, password: string) => {
  say(`${name} signs in with the password ${password}`);
  say('Change it after signing in. Every other machine of this account is signed out.');
};
const isName = (one: { name: string }, name: string) => one.name.toLowerCase() === name.toLowerCase();

function tellCode(code: string | null): void {
  if (code === null)
    throw new FolderTrouble(
      'There is an account already, so no code is needed. To add another say its name: npm run account -- add "Name"',
    );
  say(`The code for the first account: ${code}`);
  say('Type it on the first page of Vigilum. It is valid until somebody has used it.');
}

/** The same through the server that has the folder open. */
async function byServer(folder: string, what: string, name: string): Promise<void> {
  const { url, key } = JSON.parse(readFileSync(join(folder, 'lock'), 'utf8')) as {
    url?: string;
    key?: string;
  };
  if (!url || !key)
    throw new FolderTrouble(`The Vigilum that has ${folder} open is still starting. Try again.`);
  const ask = async <T>(method: string, path: string): Promise<T> => {
    const answer = await fetch(`${url}/api${path}`, {
      method,
      headers: {
        [LOCAL_KEY_HEADER]: key,
        ...(method === 'POST' ? { 'content-type': 'application/json' } : {}),
      },
      ...(method === 'POST' ? { body: '{}' } : {}),
    });
    if (!answer.ok) throw new FolderTrouble(`The server at ${url} refused: ${await answer.text()}`);
    return (await answer.json()) as T;
  };
  const { accounts, firstCode: code } = await ask<Accounts>('GET', '/accounts');
  if (what === 'add' && name === '') return tellCode(code);
  if (what === 'add')
    throw new FolderTrouble('Vigilum is running: invite people from its page Accounts, or stop it first.');
  if (what === 'list') return accounts.forEach((one) => say(`${one.name} (${one.role})`));
  const account = accounts.find((one) => isName(one, name));
  if (!account) throw nobody(name);
  told(
    account.name,
    (await ask<{ password: string }>('POST', `/accounts/${account.id}/recoveries`)).password,
  );
}

async function inDatabase(db: Database, what: string, name: string, role: AccountRole): Promise<void> {
  const accounts = await db.query<{ id: number; name: string; role: string }>(
    'select id, name, role from accounts where removed_at is null order by id',
  );
  if (what === 'list') {
    if (accounts.length === 0) say('Nobody has an account yet.');
    return accounts.forEach((one) => say(`${one.name} (${one.role})`));
  }
  if (what === 'add' && name === '') return tellCode(await firstCode(db));
  const password = spokenPassword();
  if (what === 'add') {
    await addAccount(db, { name, password, role }, new Date());
    return told(name, password);
  }
  const account = accounts.find((one) => isName(one, name));
  if (!account) throw nobody(name);
  await setPassword(db, account.id, password);
  await db.query('delete from sessions where account_id = $1', [account.id]);
  told(account.name, password);
}

async function main(args: string[]): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { role: { type: 'string', default: 'owner' }, school: { type: 'string' } },
  });
  const [what = '', name = ''] = positionals;
  const role = accountRoles.find((one) => one === values.role);
  const sound = ['list', 'add'].includes(what) || (what === 'password' && name.trim() !== '');
  if (!sound || !role) {
    process.stderr.write(`${USAGE}\n`);
    process.exitCode = 1;
    return;
  }
  const folder = resolve(process.env.DATA_DIR ?? 'data/own');
  const database = process.env.DATABASE_URL;
  if (!database && what !== 'add' && !existsSync(folder))
    throw new FolderTrouble(`There is no data folder ${folder}.`);
  let store;
  try {
    store = await openStore({ database, folder });
  } catch (error) {
    if (error instanceof FolderInUse) return byServer(folder, what, name.trim());
    throw error;
  }
  let done = false;
  try {
    await migrate(store.db);
    const { db } = store;
    const school = await schoolMeant(db, values.school);
    await inSchool(school, () => inDatabase(db, what, name.trim(), role));
    done = true;
  } finally {
    await closeStore(store, { keep: done });
  }
}

main(process.argv.slice(2)).catch((error: unknown) => {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
  process.exit(1);
});
