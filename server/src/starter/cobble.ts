import type { Kit } from '@vigilum/core/sensing';

/** The classroom kit that ships with Vigilum: invented, as are all its numbers. */
export const cobble: Kit = {
  slug: 'cobble',
  name: 'Cobble',
  sockets: [
    ...['K1', 'K2', 'K3', 'K4', 'K5', 'K6'].map((name) => ({ name, takes: 'sensor' as const })),
    { name: 'ML', takes: 'motor', drives: 'left wheel' },
    { name: 'MR', takes: 'motor', drives: 'right wheel' },
    { name: 'MX', takes: 'motor' },
  ],
  sensors: [
    { id: 'bumper', name: 'bumper', kinds: ['touch'], unit: '', min: 0, max: 1, step: 1, samplePeriodMs: 10 },
    {
      id: 'floor-eye',
      name: 'floor eye',
      kinds: ['light', 'ambient', 'colour'],
      unit: '%',
      min: 0,
      max: 100,
      step: 1,
      samplePeriodMs: 50,
      mountMm: { from: 8, to: 16 },
      mountAdvice: 'Facing down, ahead of the wheels, its light visible on the floor.',
    },
    {
      id: 'sounder',
      name: 'sounder',
      kinds: ['distance'],
      unit: 'cm',
      min: 3,
      max: 200,
      step: 0.1,
      samplePeriodMs: 60,
    },
  ],
  drive: { topDegPerS: 900, tauDriveS: 0.07, tauBrakeS: 0.045, tauCoastS: 0.3, commandDelayMs: 8 },
  stepTimeMs: 5,
  atProgramEnd: { kind: 'roll', forMs: 500 },
};
