import type { Kit, RobotBuild } from '@vigilum/core/sensing';

/** The smaller classroom kit that ships with Vigilum: invented. No distance in centimetres, no heading. */
export const skiff: Kit = {
  slug: 'skiff',
  name: 'Skiff',
  sockets: [
    ...['S-a', 'S-b', 'S-c', 'S-d'].map((name) => ({ name, takes: 'sensor' as const })),
    { name: 'port', takes: 'motor', drives: 'left wheel' },
    { name: 'starboard', takes: 'motor', drives: 'right wheel' },
  ],
  sensors: [
    {
      id: 'fender',
      name: 'fender',
      modes: [{ kind: 'touch', unit: '', min: 0, max: 100, step: 100, samplePeriodMs: 20 }],
    },
    {
      id: 'deck-eye',
      name: 'deck eye',
      modes: [
        {
          kind: 'light',
          unit: '%',
          min: 0,
          max: 100,
          step: 1,
          samplePeriodMs: 80,
          // A divider of a ten-bit converter: the darker the floor, the more it counts.
          raw: { atMin: 910, atMax: 130 },
        },
      ],
      faces: 'down',
      mountMm: { from: 6, to: 14 },
      mountAdvice: 'Facing down; its red light must be seen on the floor.',
    },
    {
      id: 'lookout',
      name: 'lookout',
      modes: [
        { kind: 'proximity', unit: '%', min: 0, max: 100, step: 1, samplePeriodMs: 70 },
        { kind: 'beacon', unit: 'deg', min: -60, max: 60, step: 5, samplePeriodMs: 100, noReading: -128 },
      ],
      faces: 'ahead',
      mountAdvice: 'Ahead and level. Do not look into it up close.',
    },
  ],
  drive: {
    topDegPerS: 620,
    tauDriveS: 0.11,
    tauBrakeS: 0.07,
    tauCoastS: 0.4,
    commandDelayMs: 15,
    deadPercent: 3,
    wallFriction: 0.3,
  },
  stepTimeMs: 10,
  atProgramEnd: { kind: 'stop' },
};

/** A Skiff as it comes out of the box. */
export const skiffBuild: RobotBuild = {
  wheelDiameterMm: 52,
  trackMm: 104,
  lengthMm: 150,
  widthMm: 130,
  axleFromFrontMm: 90,
  fittings: [
    {
      socket: 'S-a',
      sensorId: 'fender',
      mode: 'touch',
      aheadMm: 88,
      rightMm: 0,
      heightMm: 25,
      facing: 'ahead',
    },
    {
      socket: 'S-b',
      sensorId: 'deck-eye',
      mode: 'light',
      aheadMm: 62,
      rightMm: 0,
      heightMm: 10,
      facing: 'down',
    },
    {
      socket: 'S-c',
      sensorId: 'lookout',
      mode: 'proximity',
      aheadMm: 80,
      rightMm: 0,
      heightMm: 45,
      facing: 'ahead',
    },
  ],
};
