import { describe, expect, it } from '@jest/globals';
import { lesson } from '../test/index.ts';
import { unknowns, unknownsOf } from './index.ts';

const ids = (more: object) => unknownsOf({ ...lesson, ...more }).map(({ id }) => id);

describe('what the simulator does not know', () => {
  it('is told of a lesson as far as it can matter there', () => {
    expect(ids({})).toEqual(['light', 'wear']);
    expect(ids({ modelScript: 'drive 30 % for 20 cm' })).toEqual(['light', 'grip', 'wear']);
    expect(ids({ modelScript: 'drive 30 % for 2 s' })).toEqual(['light', 'wear']);
    expect(ids({ modelScript: 'repeat until left wheel >= 4 turns\ndrive 30 %\nend' })).toContain('grip');
    expect(ids({ need: { kind: 'distance', socket: 'K2', name: 'front' } })).toEqual(['soft', 'wear']);
    expect(ids({ course: { ...lesson.course, rim: 'drop' } })).toContain('castor');
  });

  it('has one sentence each for what it is and how it shows', () => {
    for (const { says, shows } of unknowns) {
      expect(says).toMatch(/^[A-Z].*\.$/);
      expect(shows).toMatch(/\.$/);
    }
    expect(new Set(unknowns.map(({ id }) => id)).size).toBe(unknowns.length);
  });
});
