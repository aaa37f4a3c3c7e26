import { describe, expect, it } from '@jest/globals';
import { buildCourse, familyOf, stopLine } from '@vigilum/core/course';
import { rehearse, tryCircumstances, type KnownRobot, type Lesson } from '@vigilum/core/lesson';
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

  it('a gain of 0.4 holds a straight at 25 %; a sharp curve wants a higher gain at a lower speed', () => {
    expect(follows(proportional(0.4, 25), straight)).toMatchObject({ arrives: true });
    expect(follows(proportional(0.4, 25), straight).near).toBeGreaterThan(0.97);
    expect(follows(proportional(0.4, 25), sharp).arrives).toBe(false);
    expect(follows(proportional(1.5, 15), sharp).arrives).toBe(true);
  });
});

describe('gain in a sharp curve at 15 %', () => {
  // Common practice: 1.5 works, 1.4 is good, 1.7 too much. Here 1.4 is about the least that holds the curve, and too much shows
  // above 2 only, on motors as slow as those of the smaller kit; on quick ones later still.
  const slow = {
    ...cobble,
    sensors: cobble.sensors.map((sensor) => ({
      ...sensor,
      modes: sensor.modes.map((mode) => ({ ...mode, samplePeriodMs: 80 })),
    })),
    drive: { ...cobble.drive, tauDriveS: skiff.drive.tauDriveS, tauBrakeS: skiff.drive.tauBrakeS },
  };
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
