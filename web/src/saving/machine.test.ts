import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { started, step, type Happening, type Order, type Saving, type Side, type Ways } from './machine.ts';

let keys = 0;
const ways: Ways<string> = {
  same: (a, b) => a === b,
  merged: () => null,
  newKey: () => `key-${++keys}`,
};
const run = (state: Saving<string>, ...events: Happening<string>[]): [Saving<string>, Order<string>[]] =>
  events.reduce<[Saving<string>, Order<string>[]]>(
    ([now, done], event) => {
      const [next, orders] = step(now, event, ways);
      return [next, [...done, ...orders]];
    },
    [state, []],
  );
const first = started<string>({ revision: 1, value: 'one' });
const writes = (orders: readonly Order<string>[]) =>
  orders.flatMap((order) => (order.do === 'send' ? [order.write] : []));

describe('what is typed', () => {
  it('is saved a moment after it rests, and called saved when the server said so', () => {
    const [typing, orders] = run(first, { is: 'typed', value: 'two' });
    expect([typing.phase, orders.map((order) => order.do)]).toEqual(['typing', ['keep', 'wait']]);
    const [saving, more] = run(typing, { is: 'rested' });
    expect([saving.phase, writes(more)]).toMatchObject(['saving', [{ value: 'two', revision: 1 }]]);
    const [idle, last] = run(saving, { is: 'stored', revision: 2 });
    expect(idle).toMatchObject({ phase: 'idle', base: { revision: 2, value: 'two' } });
    expect(last).toEqual([{ do: 'forget' }]);
  });

  it('while a save is under way goes after it, from the revision that the save made', () => {
    const [state, orders] = run(
      first,
      { is: 'typed', value: 'two' },
      { is: 'rested' },
      { is: 'typed', value: 'three' },
      { is: 'rested' },
      { is: 'stored', revision: 2 },
      { is: 'rested' },
    );
    expect(state.phase).toBe('saving');
    expect(writes(orders)).toMatchObject([
      { value: 'two', revision: 1 },
      { value: 'three', revision: 2 },
    ]);
  });

  it('and taken back again needs no save', () => {
    const [state, orders] = run(first, { is: 'typed', value: 'two' }, { is: 'typed', value: 'one' });
    expect([state.phase, orders.at(-1)]).toEqual(['idle', { do: 'forget' }]);
  });

  it('that the server refuses stays on screen with the reason, and goes again when it is changed', () => {
    const [failed] = run(
      first,
      { is: 'typed', value: 'bad' },
      { is: 'rested' },
      { is: 'refused', says: 'Too long.', fields: [{ field: 'title', says: 'too long' }] },
    );
    expect(failed).toMatchObject({
      phase: 'failed',
      shown: 'bad',
      says: 'Too long.',
      fields: [{ field: 'title' }],
    });
    const [mended, orders] = run(failed, { is: 'typed', value: 'good' }, { is: 'rested' });
    expect([mended.says, writes(orders)]).toMatchObject(['', [{ value: 'good', revision: 1 }]]);
  });
});

describe('a server that does not answer', () => {
  const away = () => run(first, { is: 'typed', value: 'two' }, { is: 'rested' }, { is: 'unanswered' });

  it('gets the same write with the same key when it is back, then what was typed meanwhile', () => {
    const [offline, sent] = away();
    expect(offline.phase).toBe('offline');
    const [state, orders] = run(
      offline,
      { is: 'typed', value: 'three' },
      { is: 'rested' },
      { is: 'back' },
      { is: 'stored', revision: 2 },
      { is: 'rested' },
    );
    const [again, then] = writes(orders);
    expect(again).toEqual(writes(sent)[0]);
    expect([state.phase, then]).toMatchObject(['saving', { value: 'three', revision: 2 }]);
  });

  it('is asked again after longer and longer waits, ten seconds at most', () => {
    let [state] = away();
    const waits: number[] = [];
    for (let i = 0; i < 12; i++) {
      const [next, orders] = run(state, { is: 'back' }, { is: 'unanswered' });
      waits.push(...orders.flatMap((order) => (order.do === 'try again' ? [order.afterMs] : [])));
      state = next;
    }
    expect(waits).toEqual([...waits].sort((a, b) => a - b));
    expect([waits[0]! <= 2000, waits.at(-1)]).toEqual([true, 10_000]);
  });
});

describe('two who save', () => {
  const clash = () =>
    run(
      first,
      { is: 'typed', value: 'mine' },
      { is: 'rested' },
      { is: 'clashed', theirs: { revision: 4, value: 'theirs' } },
    );

  it('are both shown, and nothing is sent before one is chosen', () => {
    const [state] = clash();
    expect(state).toMatchObject({ phase: 'conflict', shown: 'mine', theirs: { value: 'theirs' } });
    const [later, orders] = run(state, { is: 'typed', value: 'mine too' }, { is: 'rested' }, { is: 'back' });
    expect([later.phase, later.shown, writes(orders)]).toEqual(['conflict', 'mine too', []]);
  });

  it('“keep mine” saves mine on top of theirs, and says saved only then', () => {
    const [saving, orders] = run(clash()[0], { is: 'keep mine' });
    expect([saving.phase, writes(orders)]).toMatchObject(['saving', [{ value: 'mine', revision: 4 }]]);
    expect(run(saving, { is: 'stored', revision: 5 })[0]).toMatchObject({ phase: 'idle', shown: 'mine' });
  });

  it('“take theirs” keeps mine as a version, then puts theirs on top of it', () => {
    const [state, orders] = run(
      clash()[0],
      { is: 'take theirs' },
      { is: 'stored', revision: 5 },
      { is: 'rested' },
      { is: 'stored', revision: 6 },
    );
    expect(writes(orders)).toMatchObject([
      { value: 'mine', revision: 4, note: 'set aside for the other one' },
      { value: 'theirs', revision: 5, note: '' },
    ]);
    expect(state).toMatchObject({ phase: 'idle', shown: 'theirs', base: { revision: 6 } });
  });

  it('who wrote the same are none', () => {
    const [state] = run(
      first,
      { is: 'typed', value: 'same' },
      { is: 'rested' },
      { is: 'clashed', theirs: { revision: 2, value: 'same' } },
    );
    expect(state).toMatchObject({ phase: 'idle', base: { revision: 2 } });
  });

  it('are put together where that can be done', () => {
    const merging = { ...ways, merged: (_: string, mine: string, theirs: string) => `${theirs}+${mine}` };
    let [state] = run(first, { is: 'typed', value: 'mine' }, { is: 'rested' });
    const [next, orders] = step(state, { is: 'clashed', theirs: { revision: 3, value: 'theirs' } }, merging);
    expect([next.shown, writes(orders)]).toMatchObject([
      'theirs+mine',
      [{ value: 'theirs+mine', revision: 3 }],
    ]);
    [state] = run(first, { is: 'typed', value: 'mine' });
    expect(step(state, { is: 'heard', theirs: { revision: 3, value: 'theirs' } }, merging)[0]).toMatchObject({
      phase: 'typing',
      shown: 'theirs+mine',
      base: { revision: 3 },
    });
  });

  it('one of whom only looks on sees the other’s at once', () => {
    const [state] = run(first, { is: 'heard', theirs: { revision: 2, value: 'two' } });
    expect(state).toMatchObject({ phase: 'idle', shown: 'two' });
    expect(run(state, { is: 'heard', theirs: { revision: 1, value: 'old' } })[0].shown).toBe('two');
  });
});

/** A server as it should be: revisions, versions, keys. */
class Server {
  versions: string[] = ['one'];
  private readonly done = new Map<string, number>();
  get newest(): Side<string> {
    return { revision: this.versions.length, value: this.versions.at(-1)! };
  }
  save({ key, revision, value }: { key: string; revision: number; value: string }): Happening<string> {
    const known = this.done.get(key);
    if (known !== undefined) return { is: 'stored', revision: known };
    if (revision !== this.versions.length) return { is: 'clashed', theirs: this.newest };
    this.versions.push(value);
    this.done.set(key, this.versions.length);
    return { is: 'stored', revision: this.versions.length };
  }
}

/** What may happen to a page, and between it and its server. */
type Move =
  | 'type'
  | 'rest'
  | 'answer'
  | 'lose request'
  | 'lose answer'
  | 'back'
  | 'other saves'
  | 'hear'
  | 'reload'
  | 'mine'
  | 'theirs';
const moves: Move[] = [
  'type',
  'type',
  'rest',
  'answer',
  'answer',
  'lose request',
  'lose answer',
  'back',
  'other saves',
  'hear',
  'reload',
  'mine',
  'theirs',
];

describe('any interleaving of typing, leaving, reloading, another page, lost requests and lost answers', () => {
  it('loses nothing: what was on screen is stored or shown as not saved (2,000 of them)', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...moves), { maxLength: 60 }), (plan) => {
        const server = new Server();
        let state = started<string>(server.newest);
        /** What the browser keeps; null when it has forgotten it. */
        let kept: Saving<string> | null = null;
        let pending: { key: string; revision: number; value: string }[] = [];
        let word = 0;
        /** Every text that stood on screen when it was left for good: for theirs, or by the end. */
        const mustStand: string[] = [];
        const happen = (event: Happening<string>) => {
          const [next, orders] = step(state, event, ways);
          state = next;
          for (const order of orders) {
            if (order.do === 'send') pending = [order.write];
            if (order.do === 'keep') kept = state;
            if (order.do === 'forget') kept = null;
          }
        };
        for (const move of plan) {
          const [write] = pending;
          switch (move) {
            case 'type':
              happen({ is: 'typed', value: `${state.shown}.${++word}` });
              break;
            case 'rest':
              happen({ is: 'rested' });
              break;
            case 'answer':
              if (write) {
                pending = [];
                happen(server.save(write));
              }
              break;
            case 'lose request':
            case 'lose answer':
              if (write) {
                pending = [];
                if (move === 'lose answer') server.save(write);
                happen({ is: 'unanswered' });
              }
              break;
            case 'back':
              happen({ is: 'back' });
              break;
            case 'other saves':
              server.save({
                key: `other-${word}-${plan.length}-${server.versions.length}`,
                revision: server.versions.length,
                value: `other ${server.versions.length}`,
              });
              break;
            case 'hear':
              happen({ is: 'heard', theirs: server.newest });
              break;
            case 'reload':
              // What was under way is cut off: it may have reached the server or not. Kept states come back as if offline.
              if (write && plan.length % 2 === 0) server.save(write);
              pending = [];
              state =
                kept === null
                  ? started(server.newest)
                  : {
                      ...(kept as Saving<string>),
                      phase: (kept as Saving<string>).phase === 'conflict' ? 'conflict' : 'offline',
                    };
              break;
            case 'mine':
              happen({ is: 'keep mine' });
              break;
            case 'theirs':
              if (state.phase === 'conflict') mustStand.push(state.shown);
              happen({ is: 'take theirs' });
              break;
          }
          // “Saved” is said of nothing that the server has not.
          if (state.phase === 'idle') expect(server.versions).toContain(state.shown);
          // And what is not saved is kept in the browser.
          else expect((kept as Saving<string> | null)?.shown).toBe(state.shown);
        }
        // The network comes back for good: everything gets there, unless a person has to choose.
        for (let i = 0; i < 20 && state.phase !== 'idle' && state.phase !== 'conflict'; i++) {
          happen({ is: 'back' });
          happen({ is: 'rested' });
          const [write] = pending;
          pending = [];
          if (write) happen(server.save(write));
        }
        expect(['idle', 'conflict']).toContain(state.phase);
        if (state.phase === 'idle') {
          expect(server.versions).toContain(state.shown);
          for (const text of mustStand) expect(server.versions).toContain(text);
        }
      }),
      { numRuns: 2000, seed: 20261128 },
    );
  });
});
