import { describe, expect, it } from '@jest/globals';
import { buildCourse, familyOf } from '../course/index.ts';
import { built, kit, lesson as stop } from '../test/index.ts';
import {
  courseFacts,
  measureFacts,
  measureSignal,
  measuresOf,
  sceneFor,
  simRobot,
  smallestChange,
  strengthOf,
  strengthReports,
  type KnownRobot,
  type Lesson,
  type SearchStep,
} from './index.ts';

const head = 'sensor floor is light on K3\n';
const lesson: Lesson = {
  ...stop,
  modelScript: `${head}drive 30 %\nwait until floor < threshold\nstop\n`,
  proof: { runs: 20, bar: 0.8, seed: 3 },
};
const known: KnownRobot = { kit, build: built(), sets: [], thresholds: { K3: 48 } };
const all = (reports: ReturnType<typeof strengthReports>) => [...reports].map(({ report }) => report);

describe('strength of checks', () => {
  const reports = all(strengthReports(lesson, known));

  it('catches what a stop on the line needs, and names which sentence noticed', () => {
    const strength = strengthOf(lesson, reports);
    expect(strength.missed).toBe(0);
    expect(strength.share).toBe(1);
    const stopless = reports.find(({ fault }) => fault.kind === 'stop left out')!;
    expect(stopless).toMatchObject({ outcome: 'caught', passes: 0, by: [0] });
    expect(strength.each.map(({ noticed }) => noticed)[0]).toBeGreaterThan(5);
  });

  it('misses what no sentence asks for, and says so', () => {
    const lax = { ...lesson, expectations: [{ kind: 'comes to rest' } as const] };
    const strength = strengthOf(lax, all(strengthReports(lax, known)));
    expect(strength.missed).toBeGreaterThan(2);
    expect(strength.share).toBeLessThan(0.7);
  });

  it('calls a fault that no run tells apart the same', () => {
    const twice = { ...lesson, modelScript: `${lesson.modelScript}stop\n` };
    const same = all(strengthReports(twice, known)).filter(({ outcome }) => outcome === 'equivalent');
    expect(same.map(({ fault }) => fault.kind)).toContain('stop left out');
  });

  it('is the same work whether one does it or two share it', () => {
    const shared = [0, 1].flatMap((k) => all(strengthReports(lesson, known, lesson.modelScript, [k, 2])));
    expect(shared.map(({ fault }) => fault.text).sort()).toEqual(
      reports.map(({ fault }) => fault.text).sort(),
    );
  });
});

describe('the smallest change that passes', () => {
  const find = (text: string, more: Partial<Lesson> = {}): SearchStep => {
    let last: SearchStep = { tried: 0, stage: 1, found: [] };
    for (const step of smallestChange({ ...lesson, ...more }, known, text)) last = step;
    return last;
  };
  it.each([
    ['drive 30 %\nwait until floor < threshold', 'After line 3 add “stop”'],
    [
      'drive 30 %\nwait until floor > threshold\nstop',
      'In line 3 write “wait until floor < threshold” instead of “wait until floor > threshold”',
    ],
    [
      'drive 100 %\nwait until floor < threshold\nstop',
      'In line 2 write “drive 30 %” instead of “drive 100 %”',
    ],
  ])('%j', (steps, says) => {
    const { found, stage } = find(head + steps);
    expect(stage).toBe(1);
    expect(found[0]).toMatchObject({ says, passes: 20, runs: 20, changes: 1 });
  });

  it('finds two changes where one is not enough', () => {
    const { found, stage } = find(`${head}drive 100 %\nwait until floor > threshold\nstop`);
    expect([stage, found[0]?.changes]).toEqual([2, 2]);
  });

  it('says that it found nothing where nothing near is enough, and stops by its budget', () => {
    const { found, tried } = find(`${head}show "hello"`, {
      expectations: [{ kind: 'travels', atLeastMm: 1e6 }],
    });
    expect(found).toEqual([]);
    expect(tried).toBeLessThanOrEqual(1500);
  });
});

describe('what a lesson’s course tells the review', () => {
  const of = (family: string) => courseFacts(buildCourse(familyOf(family)));
  it('drops, another robot and the followed edge', () => {
    expect(of('pier')).toEqual({ drop: true, opponent: false });
    expect(of('channel')).toMatchObject({ drop: false, edge: 'left' });
    expect(of('island')).toMatchObject({ opponent: true, target: { widthMm: 130 } });
  });
});

describe('what is measured on the floor', () => {
  it('is what the lesson says, past its landmark when it says nothing', () => {
    expect(measuresOf(lesson)).toEqual(['past']);
    expect(measureSignal(lesson, 'past')).toBe(`past ${lesson.floor.landmark}`);
    expect(measuresOf({ ...lesson, floor: { trials: 1, landmark: '' } })).toEqual([]);
    const both = {
      ...lesson,
      floor: { trials: 1, landmark: '', measures: ['gap', 'count'] as const },
    } as unknown as Lesson;
    expect(
      measuresOf(both).map((measure) => [measureSignal(both, measure), measureFacts[measure].unit]),
    ).toEqual([
      ['gap ahead', 'cm'],
      ['number shown', ''],
    ]);
  });
});

describe('the simulated robot', () => {
  it('has its sensors where they sit and as they look, lights first, and its own braking', () => {
    const build = {
      ...built(),
      fittings: [
        {
          socket: 'K1',
          sensorId: 'bumper',
          mode: 'touch' as const,
          facing: 'up' as const,
          aheadMm: 0,
          rightMm: 0,
          heightMm: 90,
        },
        ...built().fittings,
      ],
    };
    const robot = simRobot({ ...known, build, braking: { commandDelayMs: 20, tauBrakeS: 0.2 } }, lesson);
    expect(robot.sensors.map(({ kind, facingDeg }) => [kind, facingDeg])).toEqual([
      ['light', null],
      ['touch', null],
    ]);
    expect(robot.drive).toMatchObject({
      commandDelayMs: 20,
      tauBrakeS: 0.2,
      topDegPerS: kit.drive.topDegPerS,
    });
    // A button on top is no bumper.
    expect(sceneFor(lesson, build).bumpers).toEqual([]);
  });
});
