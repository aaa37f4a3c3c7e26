import type { RequestHandler, Response } from 'express';
import type { Change, ChangeOf } from '@vigilum/contract/types';
import type { Sessions } from '../access/sessions.ts';
import type { Database, Queries } from '../db/database.ts';
import { seesOf, seesTeamsOf, type Sees } from '../access/guests.ts';
import { whoOf, type Who } from '../access/who.ts';
import { Problem } from './problems.ts';
import { reachNow } from '../db/reach.ts';
import { scopeNow } from './scope.ts';

/** A stream says this often that it is alive, ms. */
const AWAKE_MS = 8000;

/** Streams that one session may have open, everybody at an address who has none, and all together. A page has two at most. */
export const MOST_STREAMS = { ofOne: 12, ofAddress: 120, inAll: 1500 };
/** By whose they are, the oldest first. */
const streams = new Map<string, Response[]>();

/** Streams that are open. */
export const openStreams = (): number => [...streams.values()].reduce((sum, { length }) => sum + length, 0);

/** Whose a stream is, and how many they may have: its session's; of those who have none, everybody's at an address. */
function holderOf(res: Response): [whose: string, most: number] {
  const who = whoOf(res);
  return who.role !== 'nobody' && who.session !== null
    ? [`session ${who.session}`, MOST_STREAMS.ofOne]
    : [`at ${res.req.ip ?? ''}`, MOST_STREAMS.ofAddress];
}

/** Counts a stream. Where a session has many the oldest is closed for the new one: its page may be long gone. */
function count(res: Response): void {
  const [whose, most] = holderOf(res);
  const own = streams.get(whose) ?? [];
  if (own.length === 0 && openStreams() >= MOST_STREAMS.inAll)
    throw new Problem(
      503,
      'Too many pages',
      'Too many pages are open on this server. Close some, then reload this one.',
    );
  streams.set(whose, [...own, res]);
  if (own.length >= most) {
    const [oldest] = own;
    // It is not to come back at once: the next oldest would be closed for it.
    oldest!.write('event: crowded\ndata: {}\n\n');
    oldest!.end();
    leave(whose, oldest!);
  }
  res.on('close', () => leave(whose, res));
}
function leave(whose: string, res: Response): void {
  const left = (streams.get(whose) ?? []).filter((one) => one !== res);
  if (left.length > 0) streams.set(whose, left);
  else streams.delete(whose);
}

/** Opens a server-sent event stream on a response and keeps it awake. Returns a writer of events. */
export function openStream(res: Response): (event: string, data: unknown, id?: number) => void {
  count(res);
  res.writeHead(200, {
    'content-type': 'text/event-stream; charset=utf-8',
    'cache-control': 'no-store, no-transform',
    connection: 'keep-alive',
  });
  res.write('retry: 2000\n\n');
  // An event, not a comment: a page that hears nothing for longer knows that the line is dead.
  const awake = setInterval(() => res.write('event: awake\ndata: {}\n\n'), AWAKE_MS);
  res.on('close', () => clearInterval(awake));
  return (event, data, id) => {
    if (res.writableEnded) return;
    res.write(`${id === undefined ? '' : `id: ${id}\n`}event: ${event}\ndata: ${JSON.stringify(data)}\n\n`);
  };
}

/** Which classes and teams a guest sees. */
interface SeenByGuest {
  klass: Sees;
  team: Sees;
}
const nothing = (): boolean => false;

/**
 * Whether somebody is to hear of a change: a team of what is its own or its lesson's, a board of what boards show, a guest of the classes
 * that they were invited to.
 */
export function concerns(
  who: Who,
  change: ChangeOf,
  seen: SeenByGuest = { klass: nothing, team: nothing },
): boolean {
  if (who.role === 'guest') {
    if ('class' in change) return change.class === 0 || seen.klass(change.class);
    if (change.what === 'evidence') return seen.team(change.team);
    return change.what !== 'robot' || change.teams.every(seen.team);
  }
  if (who.role !== 'team' && who.role !== 'board') return who.role !== 'nobody';
  switch (change.what) {
    case 'evidence':
      return who.role === 'board' || change.team === who.team;
    case 'robot':
      return who.role === 'board' || change.teams.includes(who.team);
    case 'class':
      return change.class === who.klass;
    case 'hour':
      return (
        change.class === who.klass &&
        (who.role === 'board' || change.team === null || change.team === who.team)
      );
    case 'lesson':
      return true;
    case 'kit':
    case 'phrasebook':
      return who.role === 'team';
    default:
      return false;
  }
}

/** So many changes can be asked for again by a page that was away for a moment. */
export const REMEMBERED = 500;

/** Where changes are kept for other servers: beside what was stored, in the same transaction. */
export interface Shared {
  store(tx: Queries, told: readonly ChangeOf[], by: string | null): Promise<void>;
}

/** A change, and the school that it is of; null where there is only one. */
interface Told {
  change: Change;
  school: number | null;
}

/** Tells every open page of a school what changed there. */
export class ChangeFeed {
  private readonly listeners = new Set<(change: Change, school: number | null) => void>();
  private readonly recent: Told[] = [];
  private revision: number;
  private shared: { db: Database; by: Shared } | null = null;

  /** `from` lies above every revision that an earlier feed of this folder gave: the time of the start will do. */
  constructor(from = Date.now()) {
    this.revision = from;
  }

  /** From now on changes go through the database, and come back by `take` in the order in which they were stored. */
  shareBy(db: Database, by: Shared, revision: number): void {
    this.shared = { db, by };
    this.revision = revision;
  }

  /** The newest revision that was told here. */
  get newest(): number {
    return this.revision;
  }

  /** Within a request it is told when the request is done; else at once. */
  tell(change: ChangeOf, by: string | null = null): void {
    const scope = scopeNow();
    if (scope) scope.told.push(change);
    else void this.spread([change], by, { stored: false });
  }

  /** Keeps what a write will tell beside what it stores, last of all: other servers hear of both at once. */
  async store(tx: Queries, told: readonly ChangeOf[], by: string | null): Promise<void> {
    if (told.length > 0) await this.shared?.by.store(tx, told, by);
  }

  /** Tells what a request has done, once it is done; `stored`: it was kept beside what the request stored. */
  async spread(told: readonly ChangeOf[], by: string | null, { stored }: { stored: boolean }): Promise<void> {
    const { shared } = this;
    const school = reachNow();
    const of = typeof school === 'number' ? school : null;
    if (!shared) for (const change of told) this.take({ ...change, revision: this.revision + 1, by }, of);
    else if (!stored && told.length > 0) await shared.db.transaction((tx) => this.store(tx, told, by));
  }

  /** A change with its place in the order of all, for everybody who listens here. */
  take(change: Change, school: number | null): void {
    this.revision = change.revision;
    this.recent.push({ change, school });
    if (this.recent.length > REMEMBERED) this.recent.shift();
    for (const listener of this.listeners) listener(change, school);
  }

  /** Hears every change once it is told. Returns how to stop. */
  hear(listener: (change: Change, school: number | null) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** What came after a revision; null when that can no longer be told. */
  since(revision: number): Told[] | null {
    const oldest = this.recent[0]?.change.revision ?? this.revision + 1;
    if (revision > this.revision || revision < oldest - 1) return null;
    return this.recent.filter(({ change }) => change.revision > revision);
  }

  /** The stream of changes for whoever asks; it ends with their session. */
  route =
    (sessions: Pick<Sessions, 'hangOn'>, db: Queries): RequestHandler =>
    async (req, res) => {
      const who = whoOf(res);
      const seen = { klass: await seesOf(db, who), team: await seesTeamsOf(db, who) };
      const send = openStream(res);
      sessions.hangOn(who, res);
      const tell = (change: Change, school: number | null) => {
        const theirs = who.role !== 'nobody' && (school === null || school === who.school);
        if (theirs && concerns(who, change, seen)) send('changed', change, change.revision);
      };
      const after = Number(req.headers['last-event-id'] ?? req.query.after);
      const missed = Number.isFinite(after) ? this.since(after) : [];
      // What cannot be told one by one is told as a whole: the page asks again for what it shows.
      if (missed === null) send('missed', { revision: this.revision }, this.revision);
      else if (missed.length === 0) send('here', { revision: this.revision }, this.revision);
      else for (const { change, school } of missed) tell(change, school);
      const listener = tell;
      this.listeners.add(listener);
      res.on('close', () => this.listeners.delete(listener));
    };
}
