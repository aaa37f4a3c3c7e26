import { describe, expect, it } from '@jest/globals';
import { kitFaults, type Kit } from '@vigilum/core/sensing';
import { blankKit, formOfKit, kitOfForm, newMode, newSensor } from './kitForm.ts';

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
