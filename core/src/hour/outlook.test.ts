import { describe, expect, it } from '@jest/globals';
import { cutsOf, outlookOf, outlookSays, type HourGiven } from './outlook.ts';
import type { HourStep } from './plan.ts';
import type { StripStep } from './strip.ts';

const kinds = ['wire', 'script', 'prove', 'floor', 'extend'] as const;
const minutes = [4, 10, 5, 9, 6];
const steps: HourStep[] = kinds.map((kind, i) => ({
  id: kind,
  kind,
  word: kind[0]!.toUpperCase() + kind.slice(1),
  title: '',
  minutes: minutes[i]!,
  fromMin: minutes.slice(0, i).reduce((a, b) => a + b, 0),
  toMin: minutes.slice(0, i + 1).reduce((a, b) => a + b, 0),
  onMat: kind === 'floor',
  trials: kind === 'floor' ? 3 : null,
}));
/** A team that has done so many steps, each in the planned time and `slow` times that, and is at the next for `forMin`. */
const team = (id: number, name: string, done: number, nowMin: number, forMin = 1) => ({
  id,
  name,
  strip: steps.map(({ id: step }, i): Pick<StripStep, 'id' | 'state'> => ({
    id: step,
    state: i < done ? 'done' : 'none',
  })),
  visits: steps.slice(0, done + 1).map((step, i) => ({
    step: step.id,
    atMin:
      i === done
        ? nowMin - forMin
        : (step.fromMin / Math.max(1, steps[Math.min(done, 4)]!.fromMin)) * (nowMin - forMin),
  })),
  provedMin: done > 2 ? nowMin - forMin : null,
  pinned: null,
});
const hour = (over: Partial<HourGiven>): HourGiven => ({
  steps,
  teams: [],
  turns: [],
  before: [],
  mats: 1,
  turnMin: 6,
  nowMin: 20,
  endMin: 50,
  ...over,
});
const clock = (minute: number) => `10:${String(Math.round(minute)).padStart(2, '0')}`;

describe('the outlook of an hour', () => {
  it('says how many will have proved, with its interval, and who will hardly reach the floor', () => {
    const given = hour({
      teams: [
        team(1, 'Gannet', 3, 30),
        team(2, 'Plover', 2, 30),
        team(3, 'Petrel', 0, 30, 29),
        team(4, 'Avocet', 0, 30, 29),
      ],
      nowMin: 30,
      endMin: 40,
    });
    const outlook = outlookOf(given);
    const [first, second] = outlookSays(given, outlook, clock);
    expect(first).toMatch(/^2 of 4 teams( \(\d to \d\))? will have proved by 10:40\.$/);
    expect(second).toBe('Petrel and Avocet will hardly reach Floor: less than one chance in five.');
    expect(outlook.queue.map(({ team: id }) => id)).toEqual([1]);
    expect(outlook.notices).toMatchObject([{ kind: 'idle', mat: 1, team: 1 }]);
    expect(outlook.milestones.map(({ word, done, late }) => [word, done, late])).toEqual([
      ['Script', 2, true],
      ['Prove', 1, true],
      ['Floor', 0, true],
    ]);
    // Nobody: nothing to say.
    expect(outlookSays(hour({}), outlookOf(hour({})), clock)).toEqual([]);
  });

  it('times of earlier hours are other teams’, and slow the forecast where the class was slow', () => {
    const teams = [team(1, 'Gannet', 1, 4)];
    const at = (before: HourGiven['before']) => {
      const given = hour({ teams, nowMin: 4, before });
      const outlook = outlookOf(given);
      return { mid: outlook.forecast.teams[0]!.steps[2]!.mid, from: outlook.learnt.from };
    };
    const slow = [1, 2, 3, 4].flatMap((id) =>
      steps.slice(0, 3).map((step) => ({ team: id, step: step.id, minutes: 2 * step.minutes })),
    );
    expect(at([]).from).toBe(1);
    expect(at(slow).from).toBe(13);
    expect(at(slow).mid).toBeGreaterThan(at([]).mid + 5);
    // The same numbers of teams in another hour say nothing of these teams.
    const fast = slow.map((took) => ({ ...took, minutes: took.minutes / 4 }));
    expect(at([...slow, ...fast]).mid).toBeLessThan(at(slow).mid);
  });

  it('cuts are offered with what they bring, keep what was changed before, and those that bring nothing are not', () => {
    const given = hour({
      teams: Array.from({ length: 4 }, (_, i) => team(i + 1, `T${i + 1}`, 3, 22)),
      nowMin: 22,
      endMin: 48,
    });
    const outlook = outlookOf(given);
    const cuts = cutsOf(given, outlook, { minutes: { script: 12 } });
    const trials = cuts.find(({ says }) => says === 'Floor down to 2 trials')!;
    expect(trials.to).toBeGreaterThan(trials.from);
    expect(trials.change).toMatchObject({
      plan: { trials: { floor: 2 }, minutes: { script: 12, floor: 6 } },
    });
    expect(cuts.map(({ says }) => says)).toContain('Extend as homework');
    expect(cuts.every(({ from, to }) => to > from)).toBe(true);
    // With time enough nothing needs to be cut.
    const easy = hour({ teams: [team(1, 'Gannet', 3, 22)], nowMin: 22, endMin: 120 });
    expect(cutsOf(easy, outlookOf(easy), {})).toEqual([]);
    // All are through: neither a forecast nor a cut breaks.
    const over = hour({ teams: [team(1, 'Gannet', 5, 40)], nowMin: 40 });
    expect(outlookSays(over, outlookOf(over), clock)[0]).toBe('1 of 1 team will have proved by 10:50.');
    expect(cutsOf(over, outlookOf(over), {})).toEqual([]);
  });

  it('without mats nobody waits for one; without steps nothing breaks', () => {
    const none = hour({ teams: [team(1, 'Gannet', 3, 20)], mats: 0 });
    const outlook = outlookOf(none);
    expect(outlook.notices).toEqual([]);
    expect(outlook.forecast.teams[0]!.steps[3]!.byEnd).toBeGreaterThan(0.9);
    const empty = hour({ steps: [], teams: [{ ...team(1, 'Gannet', 0, 20), strip: [], visits: [] }] });
    expect(outlookSays(empty, outlookOf(empty), clock)).toEqual([]);
    expect(cutsOf(empty, outlookOf(empty), {})).toEqual([]);
  });
});
