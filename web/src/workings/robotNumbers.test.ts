import { describe, expect, it } from '@jest/globals';
import { readInputs, worksheets } from '@vigilum/core/workings';
import type { Kit, RobotBuild } from '@vigilum/core/sensing';
import { robotNumbers, workingPath } from './robotNumbers.ts';

const kit: Kit = {
  slug: 'punt',
  name: 'Punt',
  sockets: [{ name: 'P1', takes: 'sensor' }],
  sensors: [
    {
      id: 'eye',
      name: 'eye',
      modes: [{ kind: 'light', unit: '%', min: 0, max: 100, step: 1, samplePeriodMs: 40 }],
      mountMm: { from: 6, to: 14 },
    },
  ],
  drive: { topDegPerS: 720, tauDriveS: 0.08, tauBrakeS: 0.05, tauCoastS: 0.3, commandDelayMs: 12 },
  stepTimeMs: 5,
  atProgramEnd: { kind: 'stop' },
};
const build: RobotBuild = {
  wheelDiameterMm: 50,
  trackMm: 110,
  lengthMm: 160,
  widthMm: 120,
  axleFromFrontMm: 90,
  fittings: [{ socket: 'P1', sensorId: 'eye', mode: 'light', aheadMm: 60, rightMm: 0, heightMm: 10 }],
};

describe('the numbers a robot brings to the workings', () => {
  const numbers = robotNumbers({ kit, build }, { percent: 50, socket: 'P1' });

  it('are its own', () => {
    expect(numbers).toMatchObject({ diameter: 50, track: 110, sample: 40, step: 5, delay: 12, brake: 50 });
    expect(numbers.top).toBeCloseTo(2 * Math.PI * 50, 9);
    expect(numbers.speed).toBeCloseTo(Math.PI * 50, 9);
    expect(numbers.overlap).toBe(numbers.spot);
  });

  it('stand in the address, and every calculation reads them back', () => {
    for (const sheet of worksheets) {
      const path = workingPath(sheet.id, { ...numbers, error: null, gap: NaN });
      expect(path).not.toMatch(/NaN|null|undefined/);
      const given = Object.fromEntries(new URLSearchParams(path.split('?')[1]));
      const { values, faults } = readInputs(sheet, given);
      expect([sheet.id, faults]).toEqual([sheet.id, {}]);
      for (const { key } of sheet.inputs)
        if (numbers[key] !== undefined) expect(Math.abs(values[key]! - numbers[key])).toBeLessThan(0.006);
    }
    expect(workingPath('steering', { x1: -12.345 })).toBe('/workings/steering?x1=-12.35');
  });
});
