import { AsyncLocalStorage } from 'node:async_hooks';
import type { ChangeOf } from '@vigilum/contract/types';
import type { Database, Queries } from '../db/database.ts';

/** What belongs to the request under way: its transaction, who asks, and what it will tell once it is done. */
export interface Scope {
  /** The transaction that every statement of the request joins; null where each stands alone. */
  tx: Queries | null;
  by: string | null;
  told: ChangeOf[];
  /** What is to be done once everything is stored, beside the database. */
  after: (() => void)[];
}

const scopes = new AsyncLocalStorage<Scope>();

export const scopeNow = (): Scope | undefined => scopes.getStore();
export const inScope = <T>(scope: Scope, work: () => T): T => scopes.run(scope, work);

/** Does something beside the database once the request under way is stored; at once where there is none. */
export function afterwards(work: () => void): void {
  const scope = scopeNow();
  if (scope?.tx) scope.after.push(work);
  else work();
}

/**
 * A database whose statements join the transaction of the request that they are made in, so that a write and the
 * note that it was done stand or fall together.
 */
export function joining(db: Database): Database {
  return {
    ...db,
    query: (sql, params) => (scopeNow()?.tx ?? db).query(sql, params),
    transaction: (work) => {
      const scope = scopeNow();
      if (scope?.tx) return work(scope.tx);
      const [told, after] = [scope?.told.length ?? 0, scope?.after.length ?? 0];
      return db.transaction((tx) => {
        const joined = (): ReturnType<typeof work> => work(tx);
        if (!scope) return joined();
        // Begun once more, it tells once more.
        scope.told.length = told;
        scope.after.length = after;
        return inScope({ ...scope, tx }, joined);
      });
    },
  };
}
