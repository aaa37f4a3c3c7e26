import { describe, expect, it } from '@jest/globals';
import { parseScript } from '@vigilum/core/script';
import { kitFaults, sensorKinds, type Kit } from '@vigilum/core/sensing';
import { blankKit, formOfKit, kitOfForm, newMode, newSensor, newSocket } from './kitForm.ts';

const kit: Kit = {
  slug: 'punt',
  name: 'Punt',
  sockets: [
    { name: 'P1', takes: 'sensor', label: 'the red plug' },
    { name: 'L', takes: 'motor', drives: 'left wheel' },
    { name: 'R', takes: 'motor', drives: 'right wheel' },
  ],
  sensors: [
    {
      id: 'eye',
      name: 'eye',
      modes: [
        { kind: 'light', unit: '%', min: 0, max: 100, step: 0.5, samplePeriodMs: 40 },
        {
          kind: 'colour',
          unit: '',
          min: 0,
          max: 2,
          step: 1,
          samplePeriodMs: 40,
          colours: ['black', 'white', 'red'],
        },
        { kind: 'distance', unit: 'cm', min: 3, max: 200, step: 0.1, samplePeriodMs: 60, noReading: 255 },
      ],
      faces: 'down',
      mountMm: { from: 6, to: 14 },
      mountAdvice: 'Low.',
    },
    {
      id: 'bump',
      name: 'bump',
      modes: [{ kind: 'touch', unit: '', min: 0, max: 1, step: 1, samplePeriodMs: 10 }],
    },
  ],
  drive: { topDegPerS: 700, tauDriveS: 0.08, tauBrakeS: 0.05, tauCoastS: 0.3, commandDelayMs: 12 },
  stepTimeMs: 5,
  atProgramEnd: { kind: 'roll', forMs: 400 },
};

describe('the form of a kit', () => {
  it('gives the kit back as it was', () => {
    expect(kitOfForm(formOfKit(kit))).toEqual(kit);
    const stops: Kit = { ...kit, atProgramEnd: { kind: 'stop' } };
    expect(kitOfForm(formOfKit(stops))).toEqual(stops);
  });

  it('reads numbers as people type them and leaves out what is empty', () => {
    const form = formOfKit(kit);
    form.stepTimeMs = ' 7,5 ';
    form.sockets[0]!.label = '   ';
    form.sensors[0]!.mountAdvice = '';
    form.sensors[0]!.modes[1]!.colours = 'black, , white';
    form.sensors[0]!.modes[2]!.noReading = '−1';
    const made = kitOfForm(form);
    expect(made.stepTimeMs).toBe(7.5);
    expect(made.sockets[0]).toEqual({ name: 'P1', takes: 'sensor' });
    expect(made.sensors[0]).not.toHaveProperty('mountAdvice');
    expect(made.sensors[0]!.modes[1]!.colours).toEqual(['black', 'white']);
    expect(made.sensors[0]!.modes[2]!.noReading).toBe(-1);
  });

  it('is told by name what is not filled in', () => {
    const form = formOfKit(kit);
    form.sensors[0]!.modes[0]!.max = 'a lot';
    expect(kitFaults(kitOfForm(form))).toEqual([
      { field: 'sensors.0.modes.0.max', says: 'sensors.0.modes.0.max must be a number' },
    ]);
    form.sensors[0]!.modes[0]!.max = '100';
    form.sensors[0]!.mountTo = '';
    expect(kitFaults(kitOfForm(form))[0]!.field).toBe('sensors.0.mountMm.to');
  });

  it('of a new kit contradicts nothing, and neither does another sensor', () => {
    expect(kitFaults(kitOfForm(blankKit))).toEqual([]);
    const more = { ...blankKit, sensors: [...blankKit.sensors, newSensor(2)] };
    expect(kitFaults(kitOfForm(more))).toEqual([]);
    // Two modes of one kind do.
    const twice = { ...newSensor(2), modes: [newMode(), newMode()] };
    expect(kitFaults(kitOfForm({ ...blankKit, sensors: [twice] }))[0]!.says).toMatch(
      /has the mode light twice/,
    );
  });
});

describe('a kit of one’s own cannot be wrong by default', () => {
  it.each(sensorKinds.filter((kind) => kind !== 'wheel'))(
    'a mode that is set to %s is one of its kind',
    (kind) => {
      const form = { ...blankKit, sensors: [{ ...newSensor(1), modes: [newMode(kind)] }] };
      expect(kitFaults(kitOfForm(form))).toEqual([]);
    },
  );

  it('a unit of another kind is told at its field', () => {
    const modes = [{ ...newMode('distance'), unit: '%' as const }];
    expect(kitFaults(kitOfForm({ ...blankKit, sensors: [{ ...newSensor(1), modes }] }))).toContainEqual({
      field: 'sensors.0.modes.0.unit',
      says: 'sensor 1: distance is told in cm or mm or in, not in %',
    });
    const below = [{ ...newMode('distance'), min: '-5' }];
    expect(
      kitFaults(kitOfForm({ ...blankKit, sensors: [{ ...newSensor(1), modes: below }] }))[0]!.says,
    ).toMatch('distance is never below 0');
  });

  it.each([
    ['1', false],
    ['S1', true],
    ['S-a', true],
    ['S-1', false],
    ['K 3', false],
    ['Port_A', true],
    ['', false],
  ])('a socket “%s” can be written in scripts: %s', (name, fine) => {
    const sockets = [{ name, takes: 'sensor' as const, drives: '', label: '' }, ...blankKit.sockets.slice(1)];
    expect(kitFaults(kitOfForm({ ...blankKit, sockets })).length === 0).toBe(fine);
    // The script's own grammar is the judge.
    expect(parseScript(`sensor nose is touch on ${name}\nstop`).findings.length === 0).toBe(fine);
  });

  it('another socket has the next name', () => {
    const next = (...names: string[]) => newSocket(names.map((name) => ({ name, takes: 'sensor' }))).name;
    expect([next('S1', 'S2'), next('K1', 'K5'), next('left'), next(), next('S1', 'S3')]).toEqual([
      'S3',
      'K2',
      'S1',
      'S1',
      'S2',
    ]);
  });
});
