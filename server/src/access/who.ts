import type { Response } from 'express';
import type { AccountRole } from '@vigilum/contract/types';

/** In whose name a request is made. `session` is null for this machine's own programs, and in a demo that signs in by itself. */
export type Who =
  | { role: AccountRole; account: number; name: string; session: number | null; school: number }
  | { role: 'team'; team: number; klass: number; session: number; school: number }
  | { role: 'board'; klass: number; session: number; school: number }
  | { role: 'nobody' };

export const NOBODY: Who = { role: 'nobody' };

export const whoOf = (res: Response): Who => (res.locals.who as Who | undefined) ?? NOBODY;

/** Who shares the workers with others: a colleague, or a class with all its tablets. */
export const shareOf = (who: Who): string =>
  who.role === 'team' || who.role === 'board'
    ? `class ${who.klass}`
    : 'account' in who
      ? `account ${who.account}`
      : '';
