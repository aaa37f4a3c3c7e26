import type { Response } from 'express';
import type { AccountRole } from '@vigilum/contract/types';
import type { Queries, Wire } from '../db/database.ts';
import { everywhere, inSchool, reachNow } from '../db/reach.ts';
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

/** Which sessions end: one, all of an account but one, all or one of a team, the boards of a class, all of a school. */
export type Ended =
  | { id: number }
  | { account: number; but?: number | null }
  | { team: number; tablet?: number }
  | { board: number }
  | { school: number };

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

/** A session that there was no room to store: it lasts until there is, or until this process ends. */
interface Unstored {
  id: number;
  holder: Holder;
  school: number;
  provedAt: number;
}

/** The condition of sessions that end, as SQL and its parameters. */
function conditionOf(ended: Ended): [where: string, params: readonly unknown[]] {
  if ('id' in ended) return ['id = $1', [ended.id]];
  if ('account' in ended) return ['account_id = $1 and id <> $2', [ended.account, ended.but ?? 0]];
  if ('team' in ended)
    return ['team_id = $1 and ($2::int is null or id = $2)', [ended.team, ended.tablet ?? null]];
  if ('board' in ended) return ['class_id = $1', [ended.board]];
  return ['school_id = $1', [ended.school]];
}
function isEnded({ id, holder, school }: Unstored, ended: Ended): boolean {
  if ('id' in ended) return id === ended.id;
  if ('account' in ended) return 'account' in holder && holder.account === ended.account && id !== ended.but;
  if ('team' in ended)
    return (
      'team' in holder && holder.team === ended.team && (ended.tablet === undefined || ended.tablet === id)
    );
  if ('board' in ended) return 'board' in holder && holder.board === ended.board;
  return school === ended.school;
}

/** Sessions of people, tablets and projectors: begun, found by what a browser shows, ended with all streams that hang on them. */
export class Sessions {
  private readonly known = new Map<string, { who: Who; at: number }>();
  private readonly streams = new Map<number, Set<Response>>();
  /** By the hash of their tokens. Their ids are below 0. */
  private readonly unstored = new Map<string, Unstored>();
  private lowest = 0;
  private catching: Promise<void> | null = null;
  /** Ids of stored sessions that were ended while there was no room to say so. */
  private readonly ended = new Set<number>();
  private shared = false;
  private readonly db: Queries;
  private readonly now: () => Date;
  private readonly hasRoom: () => boolean;

  constructor(db: Queries, now: () => Date, hasRoom: () => boolean = () => true) {
    this.db = db;
    this.now = now;
    this.hasRoom = hasRoom;
  }

  /** Begins a session; returns the token, which is not kept. On a full disk it is begun in memory. */
  async begin(holder: Holder): Promise<{ token: string; lastsMs: number }> {
    const token = newToken();
    const kind = 'account' in holder ? 'account' : 'team' in holder ? 'team' : 'board';
    const lastsMs = LASTS_DAYS[kind] * DAY_MS;
    if (this.hasRoom()) await this.store(hashOf(token), holder, this.now().getTime());
    else {
      const school = reachNow();
      if (typeof school !== 'number') throw new Error('A session is begun in a school.');
      this.unstored.set(hashOf(token), {
        id: --this.lowest,
        holder,
        school,
        provedAt: this.now().getTime(),
      });
    }
    return { token, lastsMs };
  }

  private async store(hash: string, holder: Holder, provedAt: number): Promise<void> {
    const at = this.now();
    const kind = 'account' in holder ? 'account' : 'team' in holder ? 'team' : 'board';
    await this.db.query(
      `insert into sessions (token_hash, account_id, team_id, class_id, made_at, seen_at, until, proved_at)
       values ($1, $2, $3, $4, $5, $5, $6, $7) on conflict (token_hash) do nothing`,
      [
        hash,
        'account' in holder ? holder.account : null,
        'team' in holder ? holder.team : null,
        'board' in holder ? holder.board : null,
        at.toISOString(),
        new Date(at.getTime() + LASTS_DAYS[kind] * DAY_MS).toISOString(),
        new Date(provedAt).toISOString(),
      ],
    );
  }

  /** Stores what there was no room for, once there is. */
  private async catchUp(): Promise<void> {
    if ((this.unstored.size === 0 && this.ended.size === 0) || !this.hasRoom()) return;
    const store = async () => {
      for (const [hash, { holder, school, provedAt }] of [...this.unstored]) {
        await inSchool(school, () => this.store(hash, holder, provedAt));
        this.unstored.delete(hash);
      }
      const ended = [...this.ended];
      await everywhere(() => this.db.query('delete from sessions where id = any($1::int[])', [ended]));
      for (const id of ended) this.ended.delete(id);
      this.known.clear();
    };
    await (this.catching ??= store().finally(() => (this.catching = null)));
  }

  /** Who shows a token; nobody where there is no such session, or its holder is gone. */
  async find(token: string): Promise<Who> {
    const hash = hashOf(token);
    const now = this.now().getTime();
    await this.catchUp();
    const known = this.known.get(hash);
    if (known && now - known.at < BELIEVED_MS) return known.who;
    const unstored = this.unstored.get(hash);
    // Whose it is says which school it is in, not the other way round.
    const [row] = await everywhere(() =>
      unstored
        ? this.holderRow(unstored)
        : this.db.query<Row>(
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
    const who = row && !this.ended.has(row.id) ? whoIs(row) : NOBODY;
    if (this.known.size >= MOST_KNOWN) this.known.clear();
    this.known.set(hash, { who, at: now });
    if (row && row.id > 0 && now - row.seen_at.getTime() > SEEN_MS && this.hasRoom())
      await inSchool(row.school, () => this.seen(row, now));
    return who;
  }

  /** The holder of a session that is not stored, if they are still there. */
  private async holderRow({ id, holder, school }: Unstored): Promise<Row[]> {
    const common = {
      id,
      school,
      seen_at: this.now(),
      account_id: null,
      name: null,
      role: null,
      team_id: null,
      klass: null,
    };
    const [table, of] =
      'account' in holder
        ? ['accounts', holder.account]
        : 'team' in holder
          ? ['teams', holder.team]
          : ['classes', holder.board];
    const columns =
      'account' in holder
        ? 'id as account_id, name, role'
        : 'team' in holder
          ? 'id as team_id, class_id as klass'
          : 'id as klass';
    const rows = await this.db.query<Partial<Row>>(
      `select ${columns} from ${table} where id = $1 and removed_at is null`,
      [of],
    );
    return rows.map((row) => ({ ...common, ...row }));
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

  /** Ends sessions; gives how many. */
  async end(ended: Ended): Promise<number> {
    const ids: number[] = [];
    for (const [hash, one] of this.unstored)
      if (isEnded(one, ended)) {
        this.unstored.delete(hash);
        ids.push(one.id);
      }
    const [where, params] = conditionOf(ended);
    const rows = await this.db.query<{ id: number }>(
      this.hasRoom()
        ? `delete from sessions where ${where} returning id`
        : `select id from sessions where ${where}`,
      params,
    );
    if (!this.hasRoom()) for (const { id } of rows) this.ended.add(id);
    ids.push(...rows.map(({ id }) => id));
    await this.forget();
    afterwards(() => this.cut(ids));
    return ids.length;
  }

  /** Notes that whoever holds a session has just shown their password. */
  async prove(session: number): Promise<void> {
    const at = this.now();
    for (const one of this.unstored.values()) if (one.id === session) one.provedAt = at.getTime();
    if (session > 0 && this.hasRoom())
      await this.db.query('update sessions set proved_at = $2 where id = $1', [session, at.toISOString()]);
  }

  /** Whether whoever holds a session has shown their password within so long, ms. */
  async isProved(session: number, withinMs: number): Promise<boolean> {
    const from = this.now().getTime() - withinMs;
    const unstored = [...this.unstored.values()].find(({ id }) => id === session);
    if (unstored) return unstored.provedAt > from;
    const rows = await this.db.query('select 1 from sessions where id = $1 and proved_at > $2', [
      session,
      new Date(from).toISOString(),
    ]);
    return rows.length > 0;
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
      this.cut(open.filter((id) => id > 0 && !still.has(id)));
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
