import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  canMeasure,
  fittingOn,
  preflight,
  preflightGrade,
  type Kit,
  type RobotBuild,
  type SensorKind,
  type SensorNeed,
} from './index.ts';
import { built, kit as small } from '../test/index.ts';

const mode = (kind: SensorKind) => ({
  kind,
  unit: '' as const,
  min: 0,
  max: 100,
  step: 1,
  samplePeriodMs: 50,
});
const kit: Kit = {
  ...small,
  sockets: [...['K1', 'K2', 'K3', 'K4'].map((name) => ({ name, takes: 'sensor' as const }))],
  sensors: [
    { id: 'eye', name: 'floor eye', modes: [mode('light'), mode('colour')] },
    { id: 'bumper', name: 'bumper', modes: [mode('touch')] },
    { id: 'sounder', name: 'sounder', modes: [mode('distance')] },
  ],
};
const need = (kind: SensorKind, socket: string): SensorNeed => ({ kind, socket, name: kind });
const robot = (on: Record<string, string>): RobotBuild => ({
  ...built(),
  fittings: Object.entries(on).map(([socket, sensorId]) => ({
    socket,
    sensorId,
    mode: kit.sensors.find(({ id }) => id === sensorId)!.modes[0]!.kind,
    aheadMm: 80,
    rightMm: 0,
    heightMm: 12,
  })),
});
/** What a team does with one press: the plug is moved, swapped with what is there, or a part is plugged in. */
function mended(
  build: RobotBuild,
  { socket }: SensorNeed,
  check: ReturnType<typeof preflight>[number],
): RobotBuild {
  if (check.foundOn)
    return {
      ...build,
      fittings: build.fittings.map((f) =>
        f.socket === check.foundOn
          ? { ...f, socket }
          : f.socket === socket
            ? { ...f, socket: check.foundOn! }
            : f,
      ),
    };
  return {
    ...build,
    fittings: [
      ...build.fittings.filter((f) => f.socket !== socket),
      { ...robot({ [socket]: check.plugIn!.sensorId }).fittings[0]!, mode: check.plugIn!.mode },
    ],
  };
}
const holds = (build: RobotBuild, one: SensorNeed) => {
  const here = fittingOn(build, one.socket);
  return here !== undefined && canMeasure(kit, here.sensorId, one.kind);
};

describe('a lesson that needs two of one part', () => {
  const needs = [need('light', 'K3'), need('colour', 'K4')];
  const check = (build: RobotBuild, i: number) => preflight(kit, build, needs[i]!, needs)[0]!;

  it('asks for a second one, not for the first one back', () => {
    const one = robot({ K3: 'eye' });
    expect(check(one, 0).grade).toBe('ok');
    expect(check(one, 1)).toMatchObject({
      says: 'The floor eye on K3 is needed there. K4 has nothing.',
      mend: 'Fit a second floor eye and plug it into K4.',
      plugIn: { sensorId: 'eye', mode: 'colour' },
    });
  });

  it('says what is to be unplugged, and swaps what sits the other way round', () => {
    expect(check(robot({ K3: 'eye', K4: 'bumper' }), 1).mend).toBe(
      'Unplug the bumper from K4, and plug a second floor eye in there.',
    );
    const crossed = robot({ K3: 'bumper', K1: 'eye', K4: 'eye' });
    expect(check(crossed, 0)).toMatchObject({
      foundOn: 'K1',
      mend: 'Swap the plugs of K1 and K3, and push until they click.',
    });
  });

  it('says so where the kit has no such part at all', () => {
    const none = preflight(kit, robot({}), need('beacon', 'K1'), [])[0]!;
    expect([none.mend, none.plugIn]).toEqual([
      'Fit a beacon direction sensor and plug it into K1.',
      undefined,
    ]);
  });
});

describe('whatever is plugged in where, and whatever is needed', () => {
  const sockets = ['K1', 'K2', 'K3', 'K4'];
  const part = fc.constantFrom(null, 'eye', 'bumper', 'sounder');
  const kinds = fc.constantFrom<(SensorKind | null)[]>(null, 'light', 'colour', 'touch', 'distance');

  it('each mend leaves one need fewer open, takes nothing from another, and all come to an end', () => {
    fc.assert(
      fc.property(fc.tuple(part, part, part, part), fc.tuple(kinds, kinds, kinds, kinds), (on, wanted) => {
        let build = robot(
          Object.fromEntries(sockets.flatMap((socket, i) => (on[i] ? [[socket, on[i]] as const] : []))),
        );
        const needs = sockets.flatMap((socket, i) => (wanted[i] ? [need(wanted[i], socket)] : []));
        const open = () => needs.filter((one) => !holds(build, one)).length;
        for (let left = open(), turns = 0; left > 0; left = open(), turns++) {
          expect(turns).toBeLessThanOrEqual(needs.length);
          const next = needs.find((one) => !holds(build, one))!;
          const [check] = preflight(kit, build, next, needs);
          expect([check!.grade, check!.foundOn !== undefined || check!.plugIn !== undefined]).toEqual([
            'fault',
            true,
          ]);
          build = mended(build, next, check!);
          expect(open()).toBeLessThan(left);
        }
        // Then nothing is in a wrong socket; what remains is how a part is set.
        for (const one of needs)
          expect(
            preflight(kit, build, one, needs).filter(
              ({ topic, grade }) => topic === 'socket' && grade !== 'ok',
            ),
          ).toEqual([]);
        expect(needs.every((one) => preflightGrade(preflight(kit, build, one, needs)) !== 'risk')).toBe(true);
      }),
      { numRuns: 2000 },
    );
  });
});
