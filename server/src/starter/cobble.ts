import type { Kit } from '@vigilum/core/sensing';

const percent = { unit: '%', min: 0, max: 100, step: 1 } as const;

/** The larger classroom kit that ships with Vigilum: invented, as are all its numbers. */
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
    {
      id: 'bumper',
      name: 'bumper',
      modes: [{ kind: 'touch', unit: '', min: 0, max: 1, step: 1, samplePeriodMs: 10 }],
      mountAdvice: 'Forward to find walls, or upward as a start button.',
    },
    {
      id: 'floor-eye',
      name: 'floor eye',
      modes: [
        { kind: 'light', ...percent, samplePeriodMs: 50 },
        { kind: 'ambient', ...percent, samplePeriodMs: 50 },
        {
          kind: 'colour',
          unit: '',
          min: 0,
          max: 6,
          step: 1,
          samplePeriodMs: 50,
          colours: ['black', 'white', 'red', 'green', 'blue', 'yellow', 'brown'],
        },
        { kind: 'rgb', unit: '', min: 0, max: 255, step: 1, samplePeriodMs: 50 },
      ],
      faces: 'down',
      mountMm: { from: 8, to: 16 },
      mountAdvice: 'Facing down, ahead of the wheels, its light visible on the floor.',
    },
    {
      id: 'sounder',
      name: 'sounder',
      modes: [
        { kind: 'distance', unit: 'cm', min: 3, max: 200, step: 0.1, samplePeriodMs: 60, noReading: 255 },
      ],
      faces: 'ahead',
      mountAdvice: 'Level, nothing of the robot in front of it, 5 cm or more above the floor.',
    },
    {
      id: 'spin-top',
      name: 'spin top',
      modes: [
        { kind: 'heading', unit: 'deg', min: -36_000, max: 36_000, step: 1, samplePeriodMs: 20 },
        { kind: 'spin', unit: 'deg/s', min: -440, max: 440, step: 1, samplePeriodMs: 20 },
      ],
      mountAdvice: 'Flat on the robot. Hold the robot still while it starts up.',
    },
  ],
  drive: {
    topDegPerS: 900,
    tauDriveS: 0.07,
    tauBrakeS: 0.045,
    tauCoastS: 0.3,
    commandDelayMs: 8,
    deadPercent: 2,
    accelLimitMmPerS2: 4000,
    wallFriction: 0.3,
  },
  stepTimeMs: 5,
  atProgramEnd: { kind: 'roll', forMs: 500 },
};
