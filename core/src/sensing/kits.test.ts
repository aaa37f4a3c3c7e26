import { describe, expect, it } from '@jest/globals';
import { built, kit } from '../test/index.ts';
import {
  buildFaults,
  cannotSimulate,
  cleanKit,
  fitOf,
  kitFaults,
  sensorOf,
  unitsOfKind,
  usualModes,
  type Kit,
  type SensorKind,
} from './index.ts';

const withWheels: Kit = {
  ...kit,
  sockets: [
    ...kit.sockets.filter(({ takes }) => takes === 'sensor'),
    { name: 'ML', takes: 'motor', drives: 'left wheel' },
    { name: 'MR', takes: 'motor', drives: 'right wheel' },
  ],
};
const changed = (change: (kit: Kit) => void): string[] => {
  const copy = structuredClone(withWheels);
  change(copy);
  return kitFaults(copy).map(({ says }) => says);
};

describe('a kit', () => {
  it('that makes sense has no fault', () => {
    expect(kitFaults(withWheels)).toEqual([]);
    expect(kitFaults(cleanKit(withWheels))).toEqual([]);
  });

  it('is told what contradicts itself', () => {
    expect(changed((k) => k.sockets.push({ name: 'k1', takes: 'sensor' }))).toEqual([
      'two sockets are called k1',
    ]);
    expect(changed((k) => k.sockets.pop())[0]).toMatch(/left wheel and a right wheel/);
    expect(changed((k) => (k.sensors[0]!.modes[0]!.min = 100))[0]).toMatch(/lowest reading must be below/);
    expect(changed((k) => (k.sensors[0]!.modes[0]!.noReading = 50))[0]).toMatch(
      /no-reading code 50 is also a reading/,
    );
    expect(changed((k) => (k.sensors[0]!.modes[0]!.step = NaN))).toEqual([
      'sensors.0.modes.0.step must be a number',
    ]);
    expect(changed((k) => (k.sensors[0]!.modes[1]!.kind = 'light'))[0]).toMatch(/mode light twice/);
    expect(changed((k) => (k.sensors[0]!.modes[0]!.kind = 'colour')).join('; ')).toMatch(
      /names of at least two colours/,
    );
    expect(changed((k) => (k.sensors[0]!.mountMm = { from: 16, to: 8 }))[0]).toMatch(/lowest height/);
  });

  it('gives a fitted sensor the facts of its mode', () => {
    expect(sensorOf(kit, built('K3', 'ambient').fittings[0]!)).toMatchObject({
      kind: 'ambient',
      name: 'floor eye',
    });
    expect(sensorOf(kit, { ...built().fittings[0]!, mode: 'rgb' })).toBeUndefined();
  });
});

describe('a robot', () => {
  it('is told what does not go with its kit', () => {
    const says = (build: ReturnType<typeof built>) => buildFaults(withWheels, build).map((f) => f.says);
    expect(says(built())).toEqual([]);
    expect(says(built('K9'))[0]).toMatch(/no sensor socket K9/);
    expect(says(built('ML'))[0]).toMatch(/no sensor socket ML/);
    const twice = { ...built(), fittings: [...built().fittings, ...built().fittings] };
    expect(says(twice)[0]).toBe('two parts are plugged into K3');
    expect(says({ ...built(), axleFromFrontMm: 400 })[0]).toMatch(/behind the robot/);
  });
});

describe('what a kit can do', () => {
  const only = (...kinds: SensorKind[]): Kit => ({
    ...withWheels,
    sensors: kinds.map((kind) => ({
      id: kind,
      name: `${kind} part`,
      modes: [{ kind, unit: '', min: 0, max: 100, step: 1, samplePeriodMs: 50 }],
    })),
  });
  // Common practice: infrared stands in for sound, a bumper for either.
  it('is as asked, or by something that stands in and loses something, or not at all', () => {
    expect(fitOf(only('distance'), 'distance')).toMatchObject({ way: 'as asked', loses: '' });
    const infrared = fitOf(only('proximity', 'touch'), 'distance');
    expect(infrared).toMatchObject({ way: 'stands in', by: { kind: 'proximity' } });
    expect(infrared.loses).toMatch(/No centimetres/);
    expect(fitOf(only('touch'), 'distance')).toMatchObject({ by: { kind: 'touch' } });
    expect(fitOf(only('light'), 'heading')).toMatchObject({ by: { kind: 'wheel' } });
    expect(fitOf(only('light'), 'beacon')).toMatchObject({ way: 'missing', by: null });
  });
});

describe('a kit that the simulator has no sense for', () => {
  it('is told with its part, what it says and what it may say; a whole kit is not', () => {
    expect(cannotSimulate(kit, built())).toBeNull();
    for (const mode of kit.sensors.flatMap(({ modes }) => modes))
      expect([mode.kind, unitsOfKind[mode.kind].includes(mode.unit)]).toEqual([mode.kind, true]);
    const odd = {
      ...kit,
      sensors: [{ id: 'ping', name: 'ping', modes: [{ ...usualModes.distance, unit: '%' as const }] }],
    };
    const build = {
      ...built(),
      fittings: [{ ...built().fittings[0]!, sensorId: 'ping', mode: 'distance' as const }],
    };
    expect(cannotSimulate(odd, build)).toBe(
      `The ping of the ${kit.name} cannot be simulated: distance is told in cm or mm or in, not in %. Change it on the kit’s page.`,
    );
    // What is not plugged in does not matter.
    expect(cannotSimulate(odd, { ...build, fittings: [] })).toBeNull();
  });
});
