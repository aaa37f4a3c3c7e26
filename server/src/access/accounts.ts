import type { AccountRole } from '@vigilum/contract/types';
import { one, type Queries } from '../db/database.ts';
import { Problem } from '../http/problems.ts';
import { mustHaveRoom } from '../schools/schools.ts';
import { hashPassword, isEasyToGuess } from './secrets.ts';

const nameTaken = (name: string) =>
  new Problem(
    409,
    'Name taken',
    `Nothing was saved: somebody here is called ${name} already. Add a letter or a surname.`,
    [{ field: 'name', says: 'is taken' }],
  );

/** Refuses a password that somebody would guess who knows the account's name, or the passwords that everybody takes. */
function mustBeHardToGuess(password: string, name: string): void {
  if (isEasyToGuess(password, [name, ...name.split(' ')]))
    throw new Problem(
      422,
      'Easily guessed',
      'Nothing was saved: this password is among the first that somebody would try. Take three or four words that have nothing to do with each other.',
      [{ field: 'password', says: 'is easily guessed' }],
    );
}

/** Adds an account, or a 409 where the name is taken. Upper and lower case do not matter. */
export async function addAccount(
  tx: Queries,
  { name, password, role }: { name: string; password: string | null; role: AccountRole },
  at: Date,
): Promise<number> {
  if (password !== null) mustBeHardToGuess(password, name);
  await mustHaveRoom(tx, 'accounts');
  const [row] = await tx.query<{ id: number }>(
    `insert into accounts (name, password, role, made_at) values ($1, $2, $3, $4) on conflict do nothing returning id`,
    [name, password === null ? null : await hashPassword(password), role, at.toISOString()],
  );
  if (!row) throw nameTaken(name);
  return row.id;
}

/** Whether anybody has an account. */
export async function hasAccounts(db: Queries): Promise<boolean> {
  const rows = await db.query('select 1 from accounts where removed_at is null limit 1');
  return rows.length > 0;
}

/** Refuses what would leave a school without an owner. */
export async function mustKeepOwner(tx: Queries, id: number): Promise<void> {
  const rows = await tx.query(
    `select 1 from accounts where role = 'owner' and removed_at is null and id <> $1 limit 1`,
    [id],
  );
  if (rows.length === 0)
    throw new Problem(
      409,
      'The only owner',
      'Nothing was changed: a school needs an owner. Make somebody else owner first.',
    );
}

/** Says which classes a guest sees; those that are not here are left out. */
export async function letSee(tx: Queries, account: number, classes: readonly number[]): Promise<void> {
  await tx.query('delete from guest_classes where account_id = $1', [account]);
  await tx.query(
    'insert into guest_classes (account_id, class_id) select $1, id from classes where id = any($2::int[])',
    [account, [...classes]],
  );
}

/** Gives an account another password. */
export async function setPassword(tx: Queries, id: number, password: string): Promise<void> {
  const { name } = await one<{ name: string }>(tx, 'select name from accounts where id = $1', [id]);
  mustBeHardToGuess(password, name);
  await tx.query('update accounts set password = $2 where id = $1', [id, await hashPassword(password)]);
}
