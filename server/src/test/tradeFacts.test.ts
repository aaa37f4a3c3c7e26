import { describe, expect, it } from '@jest/globals';
import { buildCourse, familyOf, stopLine } from '@vigilum/core/course';
import { rehearse, tryCircumstances, type KnownRobot, type Lesson } from '@vigilum/core/lesson';
import { criticalOfFollower, pointsPerMm, topSpeedMmPerS, turnPerSteering } from '@vigilum/core/motion';
import { canRun, parseScript } from '@vigilum/core/script';
import { cobble } from '../starter/cobble.ts';
import { skiff } from '../starter/skiff.ts';
import { holdABearing } from '../starter/lessons/together.ts';
import { followTheChannel, countTheLanes, tideLine } from '../starter/lessons/lines.ts';

// Facts of the trade (common practice; no published source), held against the simulator with the shipped kit.

function known({ robot }: Lesson, kit = cobble): KnownRobot {
  return { kit, build: robot!.build, sets: [], thresholds: robot!.thresholds };
}

function run(lesson: Lesson, text: string, seed = 1, kit = cobble) {
  const program = parseScript(text);
  expect([text, canRun(program)]).toEqual([text, true]);
  return rehearse(lesson, known(lesson, kit), program, tryCircumstances(lesson, 'A', seed));
}

/** Share of the run, 0–1, that the sensor was within 25 mm of the edge, and whether it got to the end. */
function follows(
  text: string,
  values: Record<string, number>,
  kit = cobble,
): { near: number; arrives: boolean; offMm: number; takesS: number } {
  const lesson = { ...followTheChannel, course: buildCourse(familyOf('channel'), values), timeLimitS: 30 };
  const { evidence, judgements } = run(lesson, text, 1, kit);
  const off = evidence.signals['off left']!.values;
  return {
    near: off.filter((mm) => mm < 25).length / off.length,
    offMm: Math.sqrt(off.reduce((sum, mm) => sum + mm * mm, 0) / off.length),
    takesS: evidence.timesS.at(-1)!,
    arrives: judgements[lesson.expectations.findIndex(({ kind }) => kind === 'ends in')]!.verdict === 'holds',
  };
}

const head = 'sensor floor is light on K3\nsensor seen is colour on K4\n';
const twoState = (outer: number, inner: number) => `${head}repeat until seen is red
  if floor > threshold
    wheels ${outer} % and ${inner} %
  else
    wheels ${inner} % and ${outer} %
  end
end
stop
`;
const proportional = (gain: number, speed: number) => `${head}repeat until seen is red
  steer ${gain} * (floor - threshold) at ${speed} %
end
stop
`;
const straight = { straightMm: 900, bendDeg: 20, gentleMm: 900, sharpMm: 400 };
const sharp = { straightMm: 300, bendDeg: 90, gentleMm: 250, sharpMm: 110 };

describe('following a line', () => {
  it('two-state 40/30 holds a straight and loses a sharp bend that 50/−20 holds', () => {
    const line = { straightMm: 1500, bendDeg: 20, gentleMm: 900, sharpMm: 400 };
    const onStraight = run(
      { ...followTheChannel, course: buildCourse(familyOf('channel'), line), timeLimitS: 7 },
      `${head}repeat\n  if floor > threshold\n    wheels 40 % and 30 %\n  else\n    wheels 30 % and 40 %\n  end\nend\n`,
    ).evidence.signals['off left']!.values;
    expect(Math.max(...onStraight)).toBeLessThan(25);
    expect(follows(twoState(40, 30), sharp).arrives).toBe(false);
    expect(follows(twoState(50, -20), sharp).arrives).toBe(true);
  });

  // Common practice: 40/30 on a straight, 40/20 in a gentle curve, 50/−20 in a sharp one, which wags more.
  it.each([
    ['a straight', { straightMm: 1200, bendDeg: 20, gentleMm: 900, sharpMm: 400 }, [40, 30]],
    ['a gentle curve', { straightMm: 400, bendDeg: 45, gentleMm: 300, sharpMm: 300 }, [40, 20]],
    ['a sharp curve', sharp, [50, -20]],
  ] as const)('of the three wheel pairs each is the closest on its bend: %s', (_, course, best) => {
    const pairs = [
      [40, 30],
      [40, 20],
      [50, -20],
    ] as const;
    const off = pairs.map(([outer, inner]) => follows(twoState(outer, inner), course).offMm);
    expect(pairs[off.indexOf(Math.min(...off))]).toEqual(best);
  });

  it('a gain of 0.4 holds a straight at 25 %; a sharp curve wants a higher gain at a lower speed', () => {
    expect(follows(proportional(0.4, 25), straight)).toMatchObject({ arrives: true });
    expect(follows(proportional(0.4, 25), straight).near).toBeGreaterThan(0.97);
    expect(follows(proportional(0.4, 25), sharp).arrives).toBe(false);
    expect(follows(proportional(1.5, 15), sharp).arrives).toBe(true);
  });
});

describe('gain in a sharp curve at 15 %', () => {
  // Common practice: 1.5 works, 1.4 is good, 1.7 too much. Here 1.4 is about the least that holds the curve; on motors as slow as those
  // of the smaller kit 1.7 wags along the straight, because the loop just keeps swinging at 1.9; on quick ones all comes later.
  const slow = {
    ...cobble,
    sensors: cobble.sensors.map((sensor) => ({
      ...sensor,
      modes: sensor.modes.map((mode) => ({ ...mode, samplePeriodMs: 80 })),
    })),
    drive: { ...cobble.drive, tauDriveS: skiff.drive.tauDriveS, tauBrakeS: skiff.drive.tauBrakeS },
  };
  it('with slow motors 1.4 is the least that holds, 1.7 wags, and at 1.9 it swings for good', () => {
    expect(follows(proportional(1.4, 15), sharp, slow).near).toBeGreaterThan(0.97);
    // Along a straight, after it has found the edge: how far the reading is off the threshold, points.
    const straightAhead = { ...buildCourse(familyOf('fairway'), { lengthMm: 2400 }), boxes: [] };
    const wag = (gain: number) => {
      const lesson = { ...followTheChannel, course: straightAhead, expectations: [], timeLimitS: 30 };
      const text = `${head}repeat\n  steer ${gain} * (floor - threshold) at 15 %\nend`;
      const values = run(lesson, text, 1, slow).evidence.signals.K3!.values;
      const later = values.slice(values.length / 3, values.length * 0.8);
      const target = followTheChannel.robot!.thresholds.K3!;
      return Math.sqrt(later.reduce((sum, value) => sum + (value - target) ** 2, 0) / later.length);
    };
    const good = wag(1.4);
    expect(wag(1)).toBeGreaterThan(0.7 * good);
    expect(wag(1.7)).toBeGreaterThan(1.25 * good);
    expect(wag(2.2)).toBeGreaterThan(4 * good);
    const { drive, stepTimeMs } = slow;
    const speedMmPerS =
      0.15 * topSpeedMmPerS(drive.topDegPerS, followTheChannel.robot!.build.wheelDiameterMm);
    const critical = criticalOfFollower({
      delayS: 0.08 / 2 + (stepTimeMs + drive.commandDelayMs) / 1000,
      lagS: drive.tauDriveS,
      speedMmPerS,
      aheadMm: 80,
    })!;
    const perPoint = pointsPerMm(55, 4) * turnPerSteering(speedMmPerS, followTheChannel.robot!.build.trackMm);
    expect(critical.gain / perPoint).toBeGreaterThan(1.7);
    expect(critical.gain / perPoint).toBeLessThan(2.1);
  });

  it.each([
    ['quick motors', cobble],
    ['slow motors', slow],
  ])('%s: 1 is too little, 1.4 holds, too much wags and takes longer', (_, kit) => {
    const at = (gain: number) => follows(proportional(gain, 15), sharp, kit);
    expect(at(1).arrives).toBe(false);
    const good = at(1.5);
    expect(at(1.4).arrives && good.arrives).toBe(true);
    const much = at(kit === cobble ? 4 : 2.5);
    expect(much.offMm).toBeGreaterThan(good.offMm);
    expect(much.takesS).toBeGreaterThan(1.3 * good.takesS);
  });
});

describe('a hot turn', () => {
  // Common practice: a full-power turn “until above 90” was measured at 140; half the speed overshoots by much less than half.
  it('of 90 at full power ends near 140 with the larger kit', () => {
    const ends = (percent: number) => {
      let sum = 0;
      const text = `sensor gyro is heading on K5\nzero heading\nspin right at ${percent} %\nwait until gyro >= 90\nstop`;
      for (let seed = 1; seed <= 12; seed++) {
        const bearing = run(holdABearing, text, seed).evidence.signals.bearing!.values;
        sum += bearing.at(-1)! - bearing[0]!;
      }
      return sum / 12;
    };
    const full = ends(100);
    expect(full).toBeGreaterThan(133);
    expect(full).toBeLessThan(147);
    expect(ends(50) - 90).toBeLessThan((full - 90) / 2);
  });
});

describe('counting and stopping', () => {
  it('a forgotten re-arm counts several times too many', () => {
    const { run: done } = run(countTheLanes, countTheLanes.faults![0]!.script);
    const shown = done.events.filter(({ kind }) => kind === 'display').at(-1)!.text;
    expect(Number(/\d+/.exec(shown)![0])).toBeGreaterThan(15);
  });

  it('drive until tape without a stop rolls on; halving the speed at least halves the overrun', () => {
    const past = (text: string) =>
      run(tideLine, `sensor floor is light on K3\n${text}`).evidence.signals['past near-edge']!.values.at(
        -1,
      )!;
    const stopped = 'drive 30 %\nwait until floor < threshold\nstop';
    expect(past('drive 30 %\nwait until floor < threshold') - past(stopped)).toBeGreaterThan(60);
  });
});

describe('the size of the time step', () => {
  // One against ten times finer looks and steps of the program must not change what is told by more than 2 %.
  it('changes the stop gap by less than 2 % of the way when the program looks ten times as often', () => {
    const course = stopLine({
      name: 'fine',
      base: { name: 'b', reflectance: 0.76 },
      line: { name: 'l', reflectance: 0.2 },
      lineWidthMm: 30,
      approachMm: 420,
    });
    const lesson: Lesson = { ...tideLine, course };
    const quick = { ...cobble, stepTimeMs: 1 };
    const text = 'sensor floor is light on K3\ndrive 20 %\nwait until floor < threshold\nstop';
    const end = (kit: typeof cobble) => {
      let sum = 0;
      for (let seed = 1; seed <= 20; seed++)
        sum += rehearse(
          lesson,
          { ...known(tideLine), kit },
          parseScript(text),
          tryCircumstances(lesson, 'A', seed),
        ).evidence.signals.y!.values.at(-1)!;
      return sum / 20;
    };
    expect(Math.abs(end(quick) - end(cobble)) / (end(cobble) - 150)).toBeLessThan(0.02);
  });
});
