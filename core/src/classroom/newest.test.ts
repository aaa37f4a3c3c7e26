import { describe, expect, it } from '@jest/globals';
import { isOfNewest, recordOf, withRecord, type SavedScript, type TeamEvidence } from './index.ts';

describe('what was done with a program', () => {
  const script = (version: number, sameSince = version): SavedScript => ({
    version,
    text: 'stop',
    at: 0,
    sameSince,
  });
  it.each<[string, SavedScript | null, number | null, boolean]>([
    ['the newest version itself', script(4), 4, true],
    ['an older one', script(4), 3, false],
    ['an older one that says the same', script(4, 2), 3, true],
    ['the one since which it says the same', script(4, 2), 2, true],
    ['the one before that', script(4, 2), 1, false],
    ['no version at all', script(4, 2), null, false],
    ['a version, while no script is there', null, 3, true],
  ])('%s', (_, newest, scriptVersion, holds) => {
    expect(isOfNewest(newest, { scriptVersion })).toBe(holds);
  });
});

describe('the record of a team’s evidence', () => {
  const sensor = (at: number) => ({
    wireCheck: { reacts: true, at },
    sets: [],
    quickLooks: [],
    threshold: null,
    sweep: { id: 1, periodMs: 10, values: [1], at },
    touch: null,
  });
  const evidence = {
    lesson: { need: { socket: 'K3', kind: 'light', name: 'floor' } },
    sensors: { K2: sensor(2), K3: sensor(3) },
    script: null,
    tries: [{ id: 8 }, { id: 7 }],
    proof: null,
    trials: [],
  } as unknown as TeamEvidence;

  it('has the lesson’s first sensor first, the others by socket, and the newest try', () => {
    const record = recordOf(evidence);
    expect(record.wireCheck).toEqual({ reacts: true, at: 3 });
    expect(Object.keys(record.others!)).toEqual(['K2']);
    expect([record.lastTry, record.braking]).toMatchObject([{ id: 8 }, null]);
    // What only pages draw is no part of it.
    expect(Object.keys(record)).not.toContain('sweep');
  });

  it('has nothing read where the lesson’s sensor is not there', () => {
    const record = recordOf({ ...evidence, sensors: { K2: sensor(2) } });
    expect([record.wireCheck, record.sets]).toEqual([null, []]);
  });

  it('is added without changing the evidence', () => {
    const before = JSON.stringify(evidence);
    expect(withRecord(evidence).record).toEqual(recordOf(evidence));
    expect(JSON.stringify(evidence)).toBe(before);
  });
});
