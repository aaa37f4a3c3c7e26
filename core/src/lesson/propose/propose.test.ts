import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { canRun, formatScript, parseScript } from '../../script/index.ts';
import { fullBuild, fullKit as testKit, kit } from '../../test/index.ts';
import { kitFit, missingIn, needsOfLesson, timePlan, type Lesson } from '../index.ts';
import { fittingOn, kitLike, plainBody, usualBuild, usualParts } from '../../sensing/index.ts';
import { lessonAims, proposeLesson, robotFor } from './index.ts';

const fullKit = {
  ...testKit,
  sensors: testKit.sensors.map((sensor) =>
    sensor.modes.some(({ kind }) => kind === 'light')
      ? {
          ...sensor,
          modes: [...sensor.modes, { ...sensor.modes[0]!, kind: 'colour' as const, unit: '' as const }],
        }
      : sensor,
  ),
};
const aim = (id: string) => lessonAims.find((one) => one.id === id)!;
const proposal = (id: string, on = fullKit): Lesson => {
  const proposed = proposeLesson(aim(id), on, on === fullKit ? fullBuild : null);
  if (!proposed.ok) throw new Error(proposed.says);
  return proposed.value;
};

describe('a guided start', () => {
  it('knows the ten aims of a year', () => {
    expect(lessonAims.map(({ name }) => name)).toEqual([
      'stop before something',
      'stop on a line',
      'count',
      'follow an edge',
      'stay on the table',
      'turn to a heading',
      'choose a side',
      'react to colour',
      'search and push',
      'combine',
    ]);
  });

  it.each(lessonAims.map(({ id }) => [id]))('%s: a whole lesson, nothing missing but the proof', (id) => {
    const lesson = proposal(id);
    expect(missingIn(lesson, 'proved').filter(({ grade }) => grade === 'stop')).toEqual([]);
    expect(timePlan(lesson).slack).toBeGreaterThanOrEqual(0);
    expect(kitFit(lesson, fullKit).grade).toBe('fits');
    expect([lesson.cautions.length > 1, lesson.skills!.length > 1, lesson.expectations.length > 2]).toEqual([
      true,
      true,
      true,
    ]);
  });

  it.each(lessonAims.map(({ id }) => [id]))('%s: scripts that are laid out, run, and begin alike', (id) => {
    const lesson = proposal(id);
    expect(formatScript(lesson.modelScript)).toBe(lesson.modelScript);
    expect(canRun(parseScript(lesson.modelScript))).toBe(true);
    expect(lesson.modelScript.startsWith(lesson.startScript.trimEnd())).toBe(true);
    expect(lesson.faults!.length).toBeGreaterThanOrEqual(3);
    for (const { name, script } of lesson.faults!) {
      expect([name, canRun(parseScript(script))]).toEqual([name, true]);
      expect(script).not.toBe(lesson.modelScript);
    }
  });

  it('takes another way where a kit lacks a sensor, and says what it would take where there is none', () => {
    expect(proposal('stop-before-something', kit).need.kind).toBe('touch');
    expect(proposal('count', kit).also![0]!.kind).toBe('touch');
    const refused = proposeLesson(aim('choose-a-side'), kit);
    expect(refused).toMatchObject({
      ok: false,
      says: 'The Test cannot “choose a side”: it takes distance on a motor of its own.',
    });
    const none = proposeLesson(aim('turn-to-a-heading'), kit);
    expect(none.ok ? '' : none.mend).toMatch(/another aim, or a kit/);
  });

  it('asks for a method of threshold that suits the aim, where it takes a threshold', () => {
    const method = (id: string) => proposal(id).steps!.find(({ kind }) => kind === 'decide')?.part?.method;
    expect([method('stop-on-a-line'), method('count'), method('turn-to-a-heading')]).toEqual([
      'halfway',
      'past the nearest rival',
      undefined,
    ]);
  });

  it('drives at a speed, not at a percentage: a slower robot is asked for more', () => {
    const slow = { ...fullKit, drive: { ...fullKit.drive, topDegPerS: fullKit.drive.topDegPerS / 2 } };
    const percent = (lesson: Lesson) => Number(/drive (\d+) %/.exec(lesson.modelScript)![1]);
    expect(percent(proposal('stop-on-a-line', slow)) / percent(proposal('stop-on-a-line'))).toBeCloseTo(2, 0);
  });
});

describe('a robot for some sensors', () => {
  it('puts each on its usual socket, or on the next free one, and none on two', () => {
    const robot = robotFor(
      fullKit,
      [
        { name: 'a', kind: 'light', facing: 'down', rightMm: -60 },
        { name: 'b', kind: 'light', facing: 'down', rightMm: 60 },
        { name: 'c', kind: 'distance', facing: 'ahead' },
      ],
      fullBuild,
    )!;
    expect(new Set(robot.sockets).size).toBe(3);
    const usual = fullBuild.fittings.find(({ mode }) => mode === 'distance')!.socket;
    expect(robot.sockets[2]).toBe(usual);
    expect(robot.build.fittings.map(({ rightMm }) => rightMm)).toEqual([-60, 60, 0]);
    expect(robot.build.trackMm).toBe(fullBuild.trackMm);
  });

  it('mounts a floor sensor where the kit wants it, and is none without sensor or socket', () => {
    const robot = robotFor(kit, [{ name: 'a', kind: 'light', facing: 'down' }], null)!;
    expect([robot.build.fittings[0]!.heightMm, robot.build.lengthMm]).toEqual([12, plainBody.lengthMm]);
    expect(robotFor(kit, [{ name: 'a', kind: 'distance', facing: 'ahead' }], null)).toBeNull();
    const four = Array.from({ length: 4 }, (_, i) => ({
      name: `t${i}`,
      kind: 'touch' as const,
      facing: 'ahead' as const,
    }));
    expect(robotFor(kit, four, null)).toBeNull();
  });
});

describe('a lesson that is written before there is a robot of its kit', () => {
  const withMotors = {
    ...testKit,
    sockets: [
      { name: 'ML', takes: 'motor' as const, drives: 'left wheel' },
      { name: 'MR', takes: 'motor' as const, drives: 'right wheel' },
      { name: 'MX', takes: 'motor' as const },
    ],
  };
  const kits = fc
    .record({
      parts: fc.shuffledSubarray([...usualParts], { minLength: 1 }),
      sockets: fc.integer({ min: 1, max: 8 }),
    })
    .map(({ parts, sockets }) => {
      const names = Array.from({ length: sockets }, (_, i) => `S${i + 1}`).join(' ');
      const made = kitLike(withMotors, { slug: 'own', name: 'Own', parts, sockets: names });
      if (!made.ok) throw new Error(made.says);
      return made.value;
    });

  it('wants each sensor where such a robot will have it, unless it wants two of a part', () => {
    let lessons = 0;
    fc.assert(
      fc.property(kits, fc.constantFrom(...lessonAims), (kit, aim) => {
        const build = usualBuild(kit);
        const proposed = proposeLesson(aim, kit, build);
        if (!proposed.ok) return;
        lessons++;
        const seen = new Set<string>();
        for (const { socket, kind } of needsOfLesson(proposed.value)) {
          const wanted = proposed.value.robot!.build.fittings.find((one) => one.socket === socket)!;
          const there = fittingOn(build, socket);
          const of = `${aim.id}: ${kind} on ${socket}`;
          // A part that the robot has no socket left for, or a second one, goes where nothing usually is, while there is such a place.
          const fitted = build.fittings.some(({ sensorId }) => sensorId === wanted.sensorId);
          if (fitted && !seen.has(wanted.sensorId))
            expect([of, there?.sensorId]).toEqual([of, wanted.sensorId]);
          seen.add(wanted.sensorId);
        }
      }),
      { numRuns: 400 },
    );
    expect(lessons).toBeGreaterThan(50);
  });
});
