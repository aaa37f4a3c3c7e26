import { describe, expect, it } from '@jest/globals';
import { ChangeSet, Text } from '@codemirror/state';
import { undo } from '@codemirror/commands';
import fc from 'fast-check';
import { ApiProblem } from '@vigilum/contract/client';
import type { ScriptAnswer, ScriptPush, ScriptUpdate } from '@vigilum/contract/types';
import type { SavedScript } from '@vigilum/core/classroom';
import { ScriptSession, type KeptScript } from './session.ts';

/** The server’s side of a shared script, as the routes do it. */
class Authority {
  text: string;
  updates: ScriptUpdate[] = [];
  saved: SavedScript | null = null;
  constructor(text: string) {
    this.text = text;
  }
  push({ from, updates, settle }: ScriptPush): ScriptAnswer {
    if (from > this.updates.length)
      throw new ApiProblem(409, '', '', { document: { revision: this.updates.length, text: this.text } });
    if (from < this.updates.length) throw new ApiProblem(409, '', '', { updates: this.updates.slice(from) });
    for (const update of updates)
      this.text = ChangeSet.fromJSON(update.changes)
        .apply(Text.of(this.text.split('\n')))
        .toString();
    this.updates.push(...updates);
    if (settle && this.saved?.text !== this.text)
      this.saved = {
        version: (this.saved?.version ?? 0) + 1,
        sameSince: (this.saved?.version ?? 0) + 1,
        text: this.text,
        at: 0,
      };
    return { revision: this.updates.length, saved: this.saved };
  }
  pull(from: number) {
    if (from > this.updates.length)
      throw new ApiProblem(409, '', '', { document: { revision: this.updates.length, text: this.text } });
    return { updates: this.updates.slice(from), saved: this.saved };
  }
}

/** A tablet: its session, its timers, its shelf, and the network between it and the server. */
class Tablet {
  up = true;
  /** The next answer gets lost although the server did what it says. */
  loseAnswer = false;
  timers = new Map<number, () => void>();
  kept: KeptScript | null = null;
  session: ScriptSession;
  private ids = 0;
  private readonly server: () => Authority;
  private readonly name: string;

  constructor(server: () => Authority, name: string) {
    this.server = server;
    this.name = name;
    this.session = this.open(null);
  }
  private async over<T>(ask: () => T): Promise<T> {
    await Promise.resolve();
    const lost = new ApiProblem(0, 'No answer', '');
    if (!this.up) throw lost;
    const answer = ask();
    await Promise.resolve();
    if (this.loseAnswer) {
      this.loseAnswer = false;
      throw lost;
    }
    return answer;
  }
  private open(kept: KeptScript | null): ScriptSession {
    const server = this.server();
    const document = { revision: server.updates.length, text: server.text, saved: server.saved };
    return new ScriptSession(
      this.name,
      document,
      {
        push: (body) => this.over(() => this.server().push(body)),
        pull: (from) => this.over(() => this.server().pull(from)),
        token: () => `${this.name}-${++this.ids}`,
        now: () => ++this.ids,
        setTimer: (work) => {
          this.timers.set(++this.ids, work);
          return this.ids;
        },
        clearTimer: (timer) => void this.timers.delete(timer),
        keep: (record) => (this.kept = structuredClone(record)),
        forget: () => (this.kept = null),
        changed: () => undefined,
        settled: () => undefined,
        writer: () => this.name,
      },
      kept,
    );
  }
  type(at: number, text: string): void {
    const old = this.session.text;
    const from = Math.min(at, old.length);
    this.session.replace(old.slice(0, from) + text + old.slice(from));
  }
  /** Lets every timer that is set now run out. */
  async rest(): Promise<void> {
    const due = [...this.timers.values()];
    this.timers.clear();
    for (const work of due) work();
    await quiet();
  }
  reload(): void {
    this.timers.clear();
    // Without a network only what is kept can be shown.
    this.session = this.open(this.kept);
  }
}
const quiet = async () => {
  for (let i = 0; i < 200; i++) await Promise.resolve();
};

describe('a script that two tablets write', () => {
  it('shows each what the other typed, and both end with all of it', async () => {
    const server = new Authority('drive 20 %\nstop');
    const [a, b] = [new Tablet(() => server, 'a'), new Tablet(() => server, 'b')];
    a.type(0, '# ours\n');
    b.type(99, '\nbeep 500 Hz for 1 s');
    await a.rest();
    await b.rest();
    await a.session.pull();
    await quiet();
    expect(server.text).toBe('# ours\ndrive 20 %\nstop\nbeep 500 Hz for 1 s');
    expect([a.session.text, b.session.text]).toEqual([server.text, server.text]);
    expect([a.session.saving.phase, b.session.saving.phase]).toEqual(['idle', 'idle']);
  });

  it('takes only one’s own typing back', async () => {
    const server = new Authority('stop');
    const [a, b] = [new Tablet(() => server, 'a'), new Tablet(() => server, 'b')];
    a.type(0, 'drive 20 %\n');
    await a.rest();
    b.type(0, '# theirs\n');
    await b.rest();
    await a.session.pull();
    const target = {
      state: a.session.state,
      dispatch: (tr: { state: typeof a.session.state }) => (target.state = tr.state),
    };
    undo(target);
    expect(target.state.doc.toString()).toBe('# theirs\nstop');
  });

  it('becomes a version when typing rests, named by who wrote', async () => {
    const server = new Authority('');
    const a = new Tablet(() => server, 'a');
    a.type(0, 'stop');
    await a.rest();
    await a.rest();
    expect(server.saved).toMatchObject({ version: 1, text: 'stop' });
  });

  it('puts what was written without a network on top of what the other wrote meanwhile', async () => {
    const server = new Authority('drive 20 %\nwait 1 s\nstop');
    const [a, b] = [new Tablet(() => server, 'a'), new Tablet(() => server, 'b')];
    a.up = false;
    a.type(0, '# offline\n');
    await a.rest();
    expect(a.session.saving.phase).toBe('offline');
    b.type(99, '\nbeep 500 Hz for 1 s');
    await b.rest();
    a.reload();
    expect(a.session.text).toBe('# offline\ndrive 20 %\nwait 1 s\nstop');
    a.up = true;
    await a.session.flush();
    await quiet();
    expect(server.text).toBe('# offline\ndrive 20 %\nwait 1 s\nstop\nbeep 500 Hz for 1 s');
    expect([a.session.saving.phase, a.kept]).toEqual(['idle', null]);
  });

  it('sends a long time’s typing in several pushes', async () => {
    const server = new Authority('');
    const a = new Tablet(() => server, 'a');
    a.up = false;
    for (let i = 0; i < 900; i++) a.type(99_999, 'x');
    await a.rest();
    a.up = true;
    await a.session.flush();
    await quiet();
    expect([server.text.length, server.saved?.text.length, a.session.saving.phase]).toEqual([
      900,
      900,
      'idle',
    ]);
  });

  it('of which the server has another beginning asks a person, and keeps either side', async () => {
    for (const side of ['mine', 'theirs'] as const) {
      let server = new Authority('drive 20 %\nstop');
      const a = new Tablet(() => server, 'a');
      for (const word of ['one ', 'two ', 'three ']) {
        a.type(0, word);
        await a.rest();
      }
      a.type(0, 'four ');
      server = new Authority('turn left 90 deg');
      await a.rest();
      expect(a.session.saving).toMatchObject({ phase: 'conflict', theirs: { value: 'turn left 90 deg' } });
      const mine = a.session.text;
      const versions: string[] = [];
      const push = server.push.bind(server);
      server.push = (body) => {
        const answer = push(body);
        if (answer.saved) versions.push(answer.saved.text);
        return answer;
      };
      await a.session.choose(side);
      await quiet();
      expect(versions).toContain(mine);
      expect(server.text).toBe(side === 'mine' ? mine : 'turn left 90 deg');
      expect([a.session.text, a.session.saving.phase]).toEqual([server.text, 'idle']);
    }
  });
});

type Move = readonly [
  who: 0 | 1,
  what: 'type' | 'rest' | 'pull' | 'down' | 'up' | 'lose answer' | 'reload' | 'leave',
  at: number,
];

describe('any interleaving of two tablets that type, rest, leave, reload and lose the network', () => {
  it('ends with every word of both in the script, once, and the same text everywhere (200 of them)', async () => {
    const move: fc.Arbitrary<Move> = fc.tuple(
      fc.constantFrom(0 as const, 1 as const),
      fc.constantFrom(
        'type',
        'type',
        'type',
        'rest',
        'rest',
        'pull',
        'down',
        'up',
        'lose answer',
        'reload',
        'leave',
      ),
      fc.nat(60),
    );
    await fc.assert(
      fc.asyncProperty(fc.array(move, { maxLength: 40 }), async (plan) => {
        const server = new Authority('drive 20 %\nstop');
        const tablets = [new Tablet(() => server, 'a'), new Tablet(() => server, 'b')] as const;
        const words: string[] = [];
        for (const [who, what, at] of plan) {
          const tablet = tablets[who];
          switch (what) {
            case 'type': {
              const word = `<${words.length}>`;
              words.push(word);
              tablet.type(at, word);
              // What is on screen is in the browser, or at the server.
              expect(tablet.session.saving.phase === 'idle' || tablet.kept !== null).toBe(true);
              break;
            }
            case 'rest':
              await tablet.rest();
              break;
            case 'pull':
              void tablet.session.pull();
              break;
            case 'leave':
              void tablet.session.flush();
              break;
            case 'down':
              tablet.up = false;
              break;
            case 'up':
              tablet.up = true;
              break;
            case 'lose answer':
              tablet.loseAnswer = true;
              break;
            case 'reload':
              await quiet();
              if (tablet.up || tablet.kept) tablet.reload();
              break;
          }
        }
        for (const tablet of tablets) Object.assign(tablet, { up: true, loseAnswer: false });
        for (let i = 0; i < 8; i++)
          for (const tablet of tablets) {
            await tablet.session.flush();
            await tablet.rest();
            await tablet.session.pull();
            await quiet();
          }
        for (const tablet of tablets) {
          expect(tablet.session.text).toBe(server.text);
          expect([tablet.session.saving.phase, tablet.kept]).toEqual(['idle', null]);
        }
        // Words may be typed into each other; every letter of them is there, none twice.
        const letters = (text: string) => [...text].sort().join('');
        expect(letters(server.text)).toBe(letters(`drive 20 %\nstop${words.join('')}`));
      }),
      { numRuns: 200, seed: 20261128 },
    );
  }, 60_000);
});
