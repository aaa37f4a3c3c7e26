import { describe, expect, it } from '@jest/globals';
import { inTurn } from './inTurn.ts';

describe('work in turn', () => {
  it('keeps the order, and leaves out what something newer replaces', async () => {
    const begun: string[] = [];
    const ends: (() => void)[] = [];
    const send = inTurn(
      (what: string) => {
        begun.push(what);
        return new Promise<string>((done) => ends.push(() => done(what)));
      },
      (newer, older) => newer[0] === older[0],
    );
    const results = ['a1', 'a2', 'a3', 'b1', 'a4', 'a5'].map(send);
    for (let i = 0; i < 4; i++) {
      await new Promise((done) => setTimeout(done, 0));
      ends.shift()?.();
    }
    // a1 was under way already: it is done, the ones that waited behind it as one.
    expect(begun).toEqual(['a1', 'a3', 'b1', 'a5']);
    expect(await Promise.all(results)).toEqual(['a1', 'a3', 'a3', 'b1', 'a5', 'a5']);
  });

  it('goes on after a failure', async () => {
    const send = inTurn(
      (n: number) => (n === 1 ? Promise.reject(new Error('no')) : Promise.resolve(n)),
      () => false,
    );
    const [first, second] = [send(1), send(2)];
    await expect(first).rejects.toThrow('no');
    expect(await second).toBe(2);
  });
});
