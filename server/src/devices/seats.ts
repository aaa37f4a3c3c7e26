import { randomUUID } from 'node:crypto';
import { newToken } from '../access/secrets.ts';
import type { Queries } from '../db/database.ts';

/** A server that has not said for so long that a robot is with it has lost it, s. */
const LASTS_S = 12;
/** It says so this often, ms, while somebody looks at the robot there or something plugged in speaks. */
const AGAIN_MS = 4000;
/** What was found a moment ago is believed, ms: bridges send many lines a second. */
const BELIEVED_MS = 1000;

export interface SeatsOptions {
  db: Queries;
  /** The address at which the other servers reach this one. */
  url: () => string;
  /** Whether somebody looks at a robot here, or something speaks for it here. */
  isUsed: (robot: number) => boolean;
  log: (error: unknown) => void;
}

/** A robot that is with another server: where to ask, and what to show there. */
export interface Elsewhere {
  url: string;
  key: string;
}

/** Which of several servers a robot is with. The first that is asked for it has it, as long as it is used there. */
export class Seats {
  /** What others show who hand something on to this server. */
  readonly key = newToken();
  private readonly id = randomUUID();
  private readonly options: SeatsOptions;
  private readonly mine = new Set<number>();
  private readonly known = new Map<number, { where: Elsewhere | null; at: number }>();
  private readonly timer: NodeJS.Timeout;

  constructor(options: SeatsOptions) {
    this.options = options;
    this.timer = setInterval(() => void this.sayAgain().catch(options.log), AGAIN_MS);
    this.timer.unref();
  }

  /** Where a robot is; null where it is here, taken just now if it was with none. */
  async find(robot: number): Promise<Elsewhere | null> {
    const known = this.known.get(robot);
    if (known && performance.now() - known.at < BELIEVED_MS) return known.where;
    // One row, changed only by whoever has it or after it has run out: two that ask at once get the same answer.
    const [row] = await this.options.db.query<Elsewhere & { server: string }>(
      `insert into robot_seats as s (robot_id, server, url, key, until)
       values ($1, $2, $3, $4, now() + $5 * interval '1 second')
       on conflict (robot_id) do update set
         server = case when s.until < now() then excluded.server else s.server end,
         url = case when s.until < now() then excluded.url else s.url end,
         key = case when s.until < now() then excluded.key else s.key end,
         until = case when s.until < now() or s.server = excluded.server then excluded.until else s.until end
       returning server, url, key`,
      [robot, this.id, this.options.url(), this.key, LASTS_S],
    );
    const { server, url, key } = row!;
    const where = server === this.id ? null : { url, key };
    if (where === null) this.mine.add(robot);
    this.known.set(robot, { where, at: performance.now() });
    return where;
  }

  /** A server that does not answer has no robot any more. */
  async isGone(robot: number, { key }: Elsewhere): Promise<void> {
    this.known.delete(robot);
    await this.options.db.query('delete from robot_seats where robot_id = $1 and key = $2', [robot, key]);
  }

  /** Gives all robots back. */
  async close(): Promise<void> {
    clearInterval(this.timer);
    await this.options.db.query('delete from robot_seats where server = $1', [this.id]);
  }

  private async sayAgain(): Promise<void> {
    const used = [...this.mine].filter((robot) => this.options.isUsed(robot));
    const left = [...this.mine].filter((robot) => !used.includes(robot));
    for (const robot of left) this.mine.delete(robot);
    const { db } = this.options;
    if (left.length > 0)
      await db.query('delete from robot_seats where server = $1 and robot_id = any($2)', [this.id, left]);
    if (used.length > 0)
      await db.query(
        `update robot_seats set until = now() + $3 * interval '1 second' where server = $1 and robot_id = any($2)`,
        [this.id, used, LASTS_S],
      );
  }
}
