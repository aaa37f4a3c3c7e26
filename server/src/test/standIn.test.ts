import { describe, expect, it } from '@jest/globals';
import type { Hand } from '@vigilum/core/formats';
import { asNumber, summarise, type Fitting, type Sample } from '@vigilum/core/sensing';
import { Measured } from '../demo/measure.ts';
import { StandInRobot, type StandInCharacter } from '../devices/standInRobot.ts';
import { cards } from '../starter/cards.ts';
import { cobbleBuild, plainCharacter } from '../starter/build.ts';
import { cobble } from '../starter/cobble.ts';
import { skiff, skiffBuild } from '../starter/skiff.ts';
import { tideLine } from '../starter/tideLine.ts';

const { course } = tideLine;
const surfaces = [course.base, ...course.marks.map((mark) => mark.surface), ...cards];

function robot(mode?: Fitting['mode'], character: Partial<StandInCharacter> = {}, kit = cobble): Measured {
  const build = kit === skiff ? skiffBuild : cobbleBuild;
  return new Measured(
    new StandInRobot({
      name: 'test',
      kit,
      build: mode
        ? { ...build, fittings: build.fittings.map((f) => (f.sensorId === 'floor-eye' ? { ...f, mode } : f)) }
        : build,
      character: { ...plainCharacter, ...character },
      surfaces,
      course,
      seed: 7,
    }),
  );
}
const mean = (looks: Sample[]) => summarise(looks.map(asNumber)).mean;
const after = (r: Measured, hand: Hand, socket: string, n = 20) => {
  r.hand(hand);
  return r.samples(socket, n);
};

describe('what hands do to a stand-in robot', () => {
  it('a wall in front is measured, and too near or too far is no reading', () => {
    const r = robot();
    // Common practice: out of range is no reading, both too near and too far.
    expect(after(r, { put: 'front', mm: null }, 'K2')).toEqual(Array(20).fill(null));
    expect(mean(after(r, { put: 'front', mm: 300 }, 'K2'))).toBeCloseTo(30, 0);
    expect(after(r, { put: 'front', mm: 10 }, 'K2').every((v) => v === null)).toBe(true);
    expect(after(r, { put: 'front', mm: 4000 }, 'K2').every((v) => v === null)).toBe(true);
    const long = robot(undefined, { soundScale: 1.05 });
    expect(mean(after(long, { put: 'front', mm: 1000 }, 'K2'))).toBeCloseTo(105, 0);
  });

  it('infrared falls with distance and is no centimetres', () => {
    const r = robot(undefined, {}, skiff);
    const [near, far, none] = [60, 250, null].map((mm) => mean(after(r, { put: 'front', mm }, 'S-c'))!);
    expect(near!).toBeGreaterThan(far! + 10);
    expect(far!).toBeGreaterThan(none!);
    expect(none!).toBeLessThan(3);
  });

  it('a beacon is found in its direction, and beside the field there is none', () => {
    const lookout = skiffBuild.fittings.map((f) =>
      f.socket === 'S-c' ? { ...f, mode: 'beacon' as const } : f,
    );
    const r = new Measured(
      new StandInRobot({
        name: 'test',
        kit: skiff,
        build: { ...skiffBuild, fittings: lookout },
        character: plainCharacter,
        surfaces,
        course,
        seed: 3,
      }),
    );
    expect(r.samples('S-c', 2)).toEqual([null, null]);
    expect(Math.abs(mean(after(r, { put: 'beacon', deg: 30 }, 'S-c'))! - 30)).toBeLessThan(2);
    expect(after(r, { put: 'beacon', deg: 120 }, 'S-c', 2)).toEqual([null, null]);
  });

  it('pressing the bumper reads 1 (100 on the other kit), and lets go', () => {
    const r = robot();
    expect([after(r, { put: 'press' }, 'K1', 3), after(r, { put: 'release' }, 'K1', 3)]).toEqual([
      [1, 1, 1],
      [0, 0, 0],
    ]);
    expect(after(robot(undefined, {}, skiff), { put: 'press' }, 'S-a', 2)).toEqual([100, 100]);
  });

  it('turning right counts the heading up, and a drifting one creeps at rest', () => {
    const r = robot();
    r.samples('K5', 5);
    expect(after(r, { put: 'turn', deg: 90 }, 'K5', 100).at(-1)).toBe(90);
    expect(after(r, { put: 'turn', deg: -180 }, 'K5', 150).at(-1)).toBe(-90);
    const drifting = robot(undefined, { headingDrift: 0.5 }).samples('K5', 500);
    expect(drifting.at(-1)).toBe(5);
  });

  it('pushing it turns the wheels: 100 mm on 68 mm wheels is 168.5°', () => {
    const r = robot();
    r.hand({ put: 'at', xMm: 200, yMm: 150, bearingDeg: 0 });
    r.hand({ put: 'drag', toXMm: 200, toYMm: 250, seconds: 1 });
    expect(r.samples('ML', 15).at(-1)).toBe(169);
  });

  it('drags the floor sensor over the line: light, dark, light again, in between at the edges', () => {
    const r = robot();
    const edge = course.landmarks[0]!.yMm - 80;
    r.hand({ put: 'at', xMm: 200, yMm: edge - 50, bearingDeg: 0 });
    r.hand({ put: 'drag', toXMm: 200, toYMm: edge + 70, seconds: 6 });
    const drag = r.samples('K3', 125).map((v) => asNumber(v)!);
    const [before, on, past] = [drag.slice(0, 30), drag.slice(58, 64), drag.slice(-30)].map((v) => mean(v)!);
    expect(Math.min(before!, past!)).toBeGreaterThan(70);
    expect(on!).toBeLessThan(30);
    expect(drag.some((v) => v > 35 && v < 60)).toBe(true);
  });

  it('raising the sensor and turning the lamps up move every reading', () => {
    const base = mean(after(robot(), { put: 'over', surface: 'tide line' }, 'K3', 40))!;
    const lit = robot();
    lit.hand({ put: 'room', light: 100 });
    expect(mean(after(lit, { put: 'over', surface: 'tide line' }, 'K3', 40))! - base).toBeGreaterThan(4);
    const high = robot();
    high.hand({ put: 'height', mm: 30 });
    expect(mean(after(high, { put: 'over', surface: 'quay boards' }, 'K3', 40))!).toBeLessThan(55);
  });

  it('colours are named by a colour sensor and numbered by an rgb one', () => {
    const names = cobble.sensors
      .find(({ id }) => id === 'floor-eye')!
      .modes.find(({ kind }) => kind === 'colour')!.colours!;
    const named = robot('colour');
    const called = (surface: string) => {
      const [code] = after(named, { put: 'over', surface }, 'K3', 1);
      return names[asNumber(code!)!];
    };
    expect(['red card', 'green card', 'blue card', 'yellow card'].map(called)).toEqual([
      'red',
      'green',
      'blue',
      'yellow',
    ]);
    expect(after(named, { put: 'air' }, 'K3', 2)).toEqual([null, null]);
    const [red] = after(robot('rgb'), { put: 'over', surface: 'red card' }, 'K3', 1) as [
      number,
      number,
      number,
    ][];
    expect(red![0]).toBeGreaterThan(2 * red![1]);
  });

  it('refuses what cannot be done', () => {
    const r = new StandInRobot({
      name: 'x',
      kit: cobble,
      build: cobbleBuild,
      character: plainCharacter,
      surfaces,
      course,
      seed: 1,
    });
    expect(r.answer('hand at 90000 0 0')).toEqual(['error that is off the mat']);
    expect(r.answer('hand front -5')).toEqual(['error not understood']);
    expect(r.answer('hand drag 1 2')).toEqual(['error not understood']);
  });
});
