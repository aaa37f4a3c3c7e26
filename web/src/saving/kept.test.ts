import 'fake-indexeddb/auto';
import { describe, expect, it } from '@jest/globals';
import { browserShelf, memoryShelf } from './kept.ts';

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
});
