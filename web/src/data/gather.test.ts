import { describe, expect, it } from '@jest/globals';
import { gathering } from './gather.ts';

describe('changes that come quickly', () => {
  const setUp = (work: (items: number[]) => Promise<unknown>) => {
    let due: (() => void)[] = [];
    const add = gathering(work, { windowMs: 250, setTimer: (run) => due.push(run) });
    const pass = async () => {
      const now = due;
      due = [];
      for (const run of now) run();
      for (let i = 0; i < 10; i++) await Promise.resolve();
    };
    return { add, pass };
  };

  it('forty in a moment are one question', async () => {
    const asked: number[][] = [];
    const { add, pass } = setUp((items) => Promise.resolve(asked.push(items)));
    for (let i = 0; i < 40; i++) add(i);
    await pass();
    expect(asked.map((items) => items.length)).toEqual([40]);
  });

  it('what comes while a question is under way waits for its answer, and then goes together', async () => {
    const asked: number[][] = [];
    const answers: (() => void)[] = [];
    const { add, pass } = setUp((items) => {
      asked.push(items);
      return new Promise<void>((done) => answers.push(done));
    });
    add(1);
    await pass();
    for (const item of [2, 3, 4]) {
      add(item);
      await pass();
    }
    expect(asked).toEqual([[1]]);
    answers[0]!();
    await pass();
    await pass();
    expect(asked).toEqual([[1], [2, 3, 4]]);
  });

  it('goes on after a question that failed', async () => {
    let asked = 0;
    const { add, pass } = setUp(() => (asked++, Promise.reject(new Error('away'))));
    add(1);
    await pass();
    add(2);
    await pass();
    expect(asked).toBe(2);
  });
});
