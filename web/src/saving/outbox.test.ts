import { beforeEach, describe, expect, it } from '@jest/globals';
import { ApiProblem } from '@vigilum/contract/client';
import { isUnanswered, revived, type Kind } from './doc.ts';
import { started } from './machine.ts';
import { memoryShelf } from './kept.ts';
import { Outbox, type Addition } from './outbox.ts';

/** Answers are given one by one, so that a test decides what happens between them. */
class Line {
  up = true;
  log: string[] = [];
  private readonly done = new Map<string, unknown>();
  async send<T>(what: string, key: string, answer: () => T): Promise<T> {
    await Promise.resolve();
    if (!this.up) throw new ApiProblem(0, 'No answer', 'No answer.');
    if (this.done.has(key)) return this.done.get(key) as T;
    this.log.push(what);
    const given = answer();
    this.done.set(key, given);
    return given;
  }
}

let line: Line;
let revision: number;
let note: Kind<{ step: string }, string>;
let trial: Addition<{ mm: number }, { id: number }>;
let timers: (() => void)[];
let names = 0;

beforeEach(() => {
  line = new Line();
  revision = 1;
  timers = [];
  note = {
    name: 'note',
    label: ({ step }) => `note of ${step}`,
    restMs: 1000,
    ways: { same: (a, b) => a === b, merged: () => null },
    send: (_, { value, key, revision: from }) =>
      line.send(`note ${value}`, key, () => {
        if (from !== revision) throw new ApiProblem(409, 'x', 'y', { theirs: { revision, value: 'theirs' } });
        return { revision: ++revision };
      }),
    theirs: ({ body }) => (body.theirs as { revision: number; value: string } | undefined) ?? null,
  };
  let ids = 0;
  trial = {
    name: 'trial',
    label: ({ mm }) => `trial ${mm} mm`,
    send: ({ mm }, key) =>
      line.send(`trial ${mm}`, key, () => {
        if (mm < 0) throw new ApiProblem(422, 'x', 'Not below zero.');
        return { id: ++ids };
      }),
  };
});

const page = (shelf = memoryShelf(), name = 'page-one', alive: string[] = []) => {
  const box = new Outbox({
    shelf,
    page: name,
    isAlive: (other) => alive.includes(other),
    token: () => `key-${++names}`,
    now: () => ++names,
    setTimer: (work) => timers.push(work),
    revive: () => Promise.resolve(),
    clearTimer: (timer) => void (timers[timer - 1] = () => undefined),
  });
  box.learn(note);
  box.learnAdditions(trial);
  return { box, shelf };
};
const settled = async () => {
  for (let i = 0; i < 40; i++) await Promise.resolve();
};

describe('the outbox', () => {
  it('sends an addition at once, and gives its answer', async () => {
    const { box, shelf } = page();
    expect(await box.send(trial, { mm: 5 })).toEqual({ id: 1 });
    expect([shelf.held.size, box.waits().things]).toEqual([0, []]);
  });

  it('keeps what could not be sent, says so, and sends all in order when the server is back', async () => {
    const { box, shelf } = page();
    const doc = box.open(note, { step: 'predict' }, { revision: 1, value: '' });
    line.up = false;
    doc.happen({ is: 'typed', value: 'about 12' });
    doc.save();
    await settled();
    expect(await box.send(trial, { mm: 5 })).toBeNull();
    expect(await box.send(trial, { mm: 6 })).toBeNull();
    expect(box.waits()).toEqual({ things: ['note of predict', 'trial 5 mm', 'trial 6 mm'], answered: false });
    expect(shelf.held.size).toBe(3);
    line.up = true;
    await box.back();
    expect(line.log).toEqual(['note about 12', 'trial 5', 'trial 6']);
    expect([shelf.held.size, box.waits().things]).toEqual([0, []]);
  });

  it('goes on after a reload with what the page left behind, each once', async () => {
    const { box, shelf } = page();
    const doc = box.open(note, { step: 'predict' }, { revision: 1, value: '' });
    doc.happen({ is: 'typed', value: 'half a sen' });
    line.up = false;
    await box.send(trial, { mm: 5 });
    // The answer of the first try is lost, the trial is stored.
    const key = [...shelf.held.values()].map((one) => (one as { key?: string }).key).find(Boolean)!;
    line.up = true;
    await trial.send({ mm: 5 }, key);
    const again = page(shelf);
    await again.box.resume();
    await settled();
    expect(line.log).toEqual(['trial 5', 'note half a sen']);
    expect(shelf.held.size).toBe(0);
  });

  it('takes over what a page left behind that is gone, and leaves alone what belongs to one that is open', async () => {
    const shelf = memoryShelf();
    line.up = false;
    await page(shelf, 'gone').box.send(trial, { mm: 7 });
    await page(shelf, 'open').box.send(trial, { mm: 8 });
    line.up = true;
    await page(shelf, 'mine', ['open']).box.resume();
    expect(line.log).toEqual(['trial 7']);
    expect([...shelf.held.keys()].map((key) => key.split(' ')[0])).toEqual(['open']);
  });

  it('tells a refusal to whoever is there, and keeps one that came later until it is dropped', async () => {
    const { box } = page();
    await expect(box.send(trial, { mm: -1 })).rejects.toThrow('Not below zero.');
    expect(box.waits().things).toEqual([]);
    line.up = false;
    await box.send(trial, { mm: -2 });
    await box.send(trial, { mm: 3 });
    line.up = true;
    await box.back();
    expect(line.log).toContain('trial 3');
    const [refused] = box.waiting(trial);
    expect(refused).toMatchObject({ given: { mm: -2 }, refused: 'Not below zero.' });
    box.drop(refused!.key);
    expect(box.waits().things).toEqual([]);
  });

  it('shows a conflict that came up while nobody looked when the thing is opened again', async () => {
    const { box, shelf } = page();
    const doc = box.open(note, { step: 'predict' }, { revision: 1, value: '' });
    line.up = false;
    doc.happen({ is: 'typed', value: 'mine' });
    doc.save();
    await settled();
    revision = 5;
    line.up = true;
    const again = page(shelf);
    await again.box.resume();
    const opened = again.box.open(note, { step: 'predict' }, { revision: 5, value: 'theirs' });
    expect(opened.state).toMatchObject({ phase: 'conflict', shown: 'mine', theirs: { value: 'theirs' } });
    opened.happen({ is: 'keep mine' });
    await settled();
    expect([opened.state.phase, line.log.at(-1), shelf.held.size]).toEqual(['idle', 'note mine', 0]);
  });

  it('saves what is being typed when the page is left, and holds nothing that is stored', async () => {
    const { box, shelf } = page();
    const doc = box.open(note, { step: 'predict' }, { revision: 1, value: '' });
    doc.happen({ is: 'typed', value: 'last word' });
    expect(shelf.held.size).toBe(1);
    box.leave();
    await settled();
    expect([line.log, shelf.held.size]).toEqual([['note last word'], 0]);
    box.release(doc);
    expect(box.open(note, { step: 'predict' }, { revision: 2, value: 'last word' })).not.toBe(doc);
  });
});

describe('what is sent again', () => {
  it('is what the server did not take: no answer, its own faults, too many, signed out', () => {
    const unanswered = (status: number) => isUnanswered(new ApiProblem(status, 'x', 'y'));
    expect([0, 401, 429, 500, 503].filter((status) => !unanswered(status))).toEqual([]);
    expect([400, 403, 404, 409, 422, 499].filter(unanswered)).toEqual([]);
    expect(isUnanswered(new Error('of this page'))).toBe(false);
  });

  it('a thing saved by a button waits for the button; what was typed over a save goes when that is stored', async () => {
    const kit: typeof note = { ...note, name: 'kit', restMs: null };
    const { box } = page();
    box.learn(kit);
    const doc = box.open(kit, { step: 'predict' }, { revision: 1, value: '' });
    doc.happen({ is: 'typed', value: 'one' });
    expect(timers).toHaveLength(0);
    await settled();
    expect(line.log).toEqual([]);
    doc.save();
    doc.put('two');
    await settled();
    for (const work of timers.splice(0)) work();
    await settled();
    expect(line.log).toEqual(['note one', 'note two']);
  });

  it('a thing that rests waits for its rest', async () => {
    const { box } = page();
    const doc = box.open(note, { step: 'wait' }, { revision: 1, value: '' });
    doc.happen({ is: 'typed', value: 'one' });
    expect(timers).toHaveLength(1);
  });

  it('comes back after a reload as it was: a conflict and a refusal stay, what waits for a button is as stored', () => {
    const base = started({ revision: 3, value: 'stored' });
    const typed = { ...base, shown: 'typed', phase: 'typing' as const };
    for (const phase of ['conflict', 'failed'] as const)
      for (const byButton of [true, false])
        expect(revived({ ...typed, phase }, byButton)).toMatchObject({ phase, shown: 'typed' });
    expect(revived(typed, true)).toMatchObject({ phase: 'idle', shown: 'stored' });
    expect(revived(typed, false)).toMatchObject({ phase: 'offline', shown: 'typed', unanswered: 0 });
  });

  it('an answer is heard of, good or none', async () => {
    const heard: boolean[] = [];
    const { box } = page();
    const doc = box.open(note, { step: 'heard' }, { revision: 1, value: '' });
    const ports = (doc as unknown as { ports: { heard: (there: boolean) => void } }).ports;
    ports.heard = (there) => heard.push(there);
    doc.put('one');
    await settled();
    line.up = false;
    doc.put('two');
    await settled();
    expect(heard).toEqual([true, false]);
  });
});
