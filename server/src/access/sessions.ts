import type { Response } from 'express';
import type { AccountRole } from '@vigilum/contract/types';
import type { Queries, Wire } from '../db/database.ts';
import { everywhere, inSchool } from '../db/reach.ts';
import { afterwards } from '../http/scope.ts';
import { hashOf, newToken } from './secrets.ts';
import { NOBODY, type Who } from './who.ts';

/** How long a session lasts after it was last seen, days: people's own machines change hands, a tablet stays with its class. */
const LASTS_DAYS = { account: 14, team: 120, board: 120 };
const DAY_MS = 86_400_000;
/** What was found is believed for so long, ms, so that a page's twenty requests ask once. What this process changes it forgets at once. */
const BELIEVED_MS = 5000;
/** "Last seen" is written this often at most, ms. */
const SEEN_MS = 60_000;
const MOST_KNOWN = 2000;
/** On which servers tell each other that sessions have changed. */
const CHANNEL = 'vigilum_sessions';

/** Whose a session is. */
export type Holder = { account: number } | { team: number } | { board: number };

interface Row {
  id: number;
  school: number;
  seen_at: Date;
  account_id: number | null;
  name: string | null;
  role: AccountRole | null;
  team_id: number | null;
  klass: number | null;
}

/** Sessions of people, tablets and projectors: begun, found by what a browser shows, ended with all streams that hang on them. */
export class Sessions {
  private readonly known = new Map<string, { who: Who; at: number }>();
  private readonly streams = new Map<number, Set<Response>>();
  private shared = false;
  private readonly db: Queries;
  private readonly now: () => Date;

  constructor(db: Queries, now: () => Date) {
    this.db = db;
    this.now = now;
  }

  /** Begins a session; returns the token, which is not kept. */
  async begin(holder: Holder): Promise<{ token: string; lastsMs: number }> {
    const token = newToken();
    const at = this.now();
    const kind = 'account' in holder ? 'account' : 'team' in holder ? 'team' : 'board';
    const lastsMs = LASTS_DAYS[kind] * DAY_MS;
    await this.db.query(
      `insert into sessions (token_hash, account_id, team_id, class_id, made_at, seen_at, until) values ($1, $2, $3, $4, $5, $5, $6)`,
      [
        hashOf(token),
        'account' in holder ? holder.account : null,
        'team' in holder ? holder.team : null,
        'board' in holder ? holder.board : null,
        at.toISOString(),
        new Date(at.getTime() + lastsMs).toISOString(),
      ],
    );
    return { token, lastsMs };
  }

  /** Who shows a token; nobody where there is no such session, or its holder is gone. */
  async find(token: string): Promise<Who> {
    const hash = hashOf(token);
    const now = this.now().getTime();
    const known = this.known.get(hash);
    if (known && now - known.at < BELIEVED_MS) return known.who;
    // Whose it is says which school it is in, not the other way round.
    const [row] = await everywhere(() =>
      this.db.query<Row>(
        `select s.id, s.school_id as school, s.seen_at, s.account_id, a.name, a.role, s.team_id, coalesce(t.class_id, s.class_id) as klass
         from sessions s
         left join accounts a on a.id = s.account_id and a.removed_at is null
         left join teams t on t.id = s.team_id and t.removed_at is null
         left join classes c on c.id = coalesce(t.class_id, s.class_id) and c.removed_at is null
        where s.token_hash = $1 and s.until > $2 and (a.id is not null or c.id is not null)
          and exists (select 1 from schools o where o.id = s.school_id and o.removed_at is null)`,
        [hash, this.now().toISOString()],
      ),
    );
    const who = row ? whoIs(row) : NOBODY;
    if (this.known.size >= MOST_KNOWN) this.known.clear();
    this.known.set(hash, { who, at: now });
    if (row && now - row.seen_at.getTime() > SEEN_MS) await inSchool(row.school, () => this.seen(row, now));
    return who;
  }

  private async seen(row: Row, now: number): Promise<void> {
    const days = LASTS_DAYS[row.account_id !== null ? 'account' : row.team_id !== null ? 'team' : 'board'];
    const at = new Date(now).toISOString();
    await this.db.query('update sessions set seen_at = $2, until = $3 where id = $1', [
      row.id,
      at,
      new Date(now + days * DAY_MS).toISOString(),
    ]);
    if (row.account_id !== null)
      await this.db.query('update accounts set seen_at = $2 where id = $1', [row.account_id, at]);
  }

  /** Ends sessions, given by a condition on `sessions` whose first parameter is $1. */
  async end(where: `${string}$1${string}`, params: readonly unknown[]): Promise<number> {
    const rows = await this.db.query<{ id: number }>(
      `delete from sessions where ${where} returning id`,
      params,
    );
    await this.forget();
    afterwards(() => this.cut(rows.map(({ id }) => id)));
    return rows.length;
  }

  /** What was found is asked for again, here and by the other servers: roles or holders have changed. */
  async forget(): Promise<void> {
    afterwards(() => this.known.clear());
    if (this.shared) await this.db.query(`select pg_notify('${CHANNEL}', '')`);
  }

  /** Ends the streams of sessions that are no more. */
  private cut(ended: readonly number[]): void {
    for (const id of ended) {
      for (const res of this.streams.get(id) ?? []) res.end();
      this.streams.delete(id);
    }
  }

  /**
   * Lets servers on one database end what hangs on each other's sessions. A word says only that something changed, and what is no more
   * is asked for: one that is lost loses nothing.
   */
  async share(wire: Wire, log: (error: unknown) => void): Promise<() => Promise<void>> {
    const look = async () => {
      this.known.clear();
      const open = [...this.streams.keys()];
      if (open.length === 0) return;
      const there = await everywhere(() =>
        this.db.query<{ id: number }>('select id from sessions where id = any($1)', [open]),
      );
      const still = new Set(there.map(({ id }) => id));
      this.cut(open.filter((id) => !still.has(id)));
    };
    const heard = () => void look().catch(log);
    const stop = await wire.listen(CHANNEL, heard, heard);
    this.shared = true;
    return stop;
  }

  /** A stream that ends with its session. */
  hangOn(who: Who, res: Response): void {
    if (who.role === 'nobody' || who.session === null) return;
    const { session } = who;
    const open = this.streams.get(session) ?? new Set();
    this.streams.set(session, open.add(res));
    res.on('close', () => {
      open.delete(res);
      if (open.size === 0) this.streams.delete(session);
    });
  }
}

function whoIs({ id, school, account_id, name, role, team_id, klass }: Row): Who {
  if (account_id !== null) return { role: role!, account: account_id, name: name!, session: id, school };
  if (team_id !== null) return { role: 'team', team: team_id, klass: klass!, session: id, school };
  return { role: 'board', klass: klass!, session: id, school };
}
