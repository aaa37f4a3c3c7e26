import 'fake-indexeddb/auto';
import { describe, expect, it } from '@jest/globals';
import { browserShelf, memoryShelf, unhurried, type Pocket } from './kept.ts';

describe('what a browser keeps of what is not stored', () => {
  it('is there for the next life of the page, in its own database', async () => {
    const shelf = browserShelf();
    await shelf.put('page-one note', { is: 'doc', at: 1, state: { shown: 'half a sen' } });
    await shelf.put('page-one note', { is: 'doc', at: 2, state: { shown: 'half a sentence' } });
    await shelf.put('page-two trial', { is: 'entry', given: { mm: 12 } });
    expect(await browserShelf().all()).toEqual([
      ['page-one note', { is: 'doc', at: 2, state: { shown: 'half a sentence' } }],
      ['page-two trial', { is: 'entry', given: { mm: 12 } }],
    ]);
    await shelf.drop('page-one note');
    await shelf.drop('never there');
    expect((await browserShelf().all()).map(([key]) => key)).toEqual(['page-two trial']);
  });

  it('stays while the page is open where the browser refuses its database', async () => {
    const shelf = browserShelf();
    // A function cannot be put into the database, nor anywhere else: the page must not break of it.
    await expect(shelf.put('odd', { run: () => 1 })).rejects.toThrow();
    const memory = memoryShelf();
    const record = { shown: 'one' };
    await memory.put('a', record);
    record.shown = 'changed later';
    expect(await memory.all()).toEqual([['a', { shown: 'one' }]]);
  });

  it('of what follows quickly only the newest waits, and what waits when the page is left is there for the next', async () => {
    const slow = memoryShelf();
    const puts: unknown[] = [];
    let open = () => undefined as void;
    const gate = () => new Promise<void>((done) => (open = done));
    const held = {
      ...slow,
      put: async (key: string, value: unknown) => (puts.push(value), await gate(), slow.put(key, value)),
    };
    const names = new Map<string, string>();
    const pocket: Pocket = {
      get length() {
        return names.size;
      },
      key: (i) => [...names.keys()][i] ?? null,
      getItem: (name) => names.get(name) ?? null,
      setItem: (name, text) => void names.set(name, text),
      removeItem: (name) => void names.delete(name),
    };
    await slow.put('gone', 1);
    const page = unhurried(held, pocket);
    const all = [1, 2, 3].map((n) => page.put('note', n));
    await Promise.resolve();
    void page.drop('gone');
    page.leave();
    // The page ends here: the database never saw 3.
    expect(puts).toEqual([1]);
    const next = unhurried(slow, pocket);
    expect(await next.all()).toEqual([['note', 3]]);
    expect([...slow.held]).toEqual([['note', 3]]);
    expect(names.size).toBe(0);
    // Where the page goes on, two states reach the database, not three.
    open();
    await Promise.resolve();
    await Promise.resolve();
    await new Promise((done) => setTimeout(done, 5));
    open();
    await Promise.all(all);
    expect(puts).toEqual([1, 3]);
  });
});
