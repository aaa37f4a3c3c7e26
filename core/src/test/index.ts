// A kit, a robot and a lesson for the tests of several folders.
import { stopLine } from '../course/index.ts';
import type { Lesson } from '../lesson/index.ts';
import type { Kit, RobotBuild } from '../sensing/index.ts';

export { Noise } from '../sim/index.ts';

export const kit: Kit = {
  slug: 'test',
  name: 'Test',
  sockets: [
    { name: 'K1', takes: 'sensor' },
    { name: 'K3', takes: 'sensor' },
    { name: 'K4', takes: 'sensor' },
    { name: 'ML', takes: 'motor' },
  ],
  sensors: [
    {
      id: 'eye',
      name: 'floor eye',
      modes: (['light', 'ambient'] as const).map((kind) => ({
        kind,
        unit: '%' as const,
        min: 0,
        max: 100,
        step: 1,
        samplePeriodMs: 50,
      })),
      mountMm: { from: 8, to: 16 },
    },
    {
      id: 'bumper',
      name: 'bumper',
      modes: [{ kind: 'touch', unit: '', min: 0, max: 1, step: 1, samplePeriodMs: 10 }],
    },
  ],
  drive: {
    topDegPerS: 900,
    tauDriveS: 0.07,
    tauBrakeS: 0.045,
    tauCoastS: 0.3,
    commandDelayMs: 8,
    deadPercent: 2,
  },
  stepTimeMs: 5,
  atProgramEnd: { kind: 'roll', forMs: 500 },
};

/** A robot with its floor eye on a socket, set to a mode, at a height. */
export const built = (socket = 'K3', mode: 'light' | 'ambient' = 'light', heightMm = 12): RobotBuild => ({
  wheelDiameterMm: 68,
  trackMm: 120,
  lengthMm: 190,
  widthMm: 150,
  axleFromFrontMm: 112,
  fittings: [{ socket, sensorId: 'eye', mode, aheadMm: 80, rightMm: 0, heightMm }],
});

const floor = { name: 'floor', reflectance: 0.76 };
const line = { name: 'line', reflectance: 0.2 };

const angle = { unit: 'deg', min: -36_000, max: 36_000, step: 1, samplePeriodMs: 20 } as const;

/** A kit with every kind of sensor that a script may ask, and a motor socket to spare. */
export const fullKit: Kit = {
  ...kit,
  sockets: [
    ...['K1', 'K2', 'K3', 'K4', 'K5', 'K6'].map((name) => ({ name, takes: 'sensor' as const })),
    { name: 'ML', takes: 'motor', drives: 'left wheel' },
    { name: 'MR', takes: 'motor', drives: 'right wheel' },
    { name: 'MX', takes: 'motor' },
  ],
  sensors: [
    ...kit.sensors,
    {
      id: 'sounder',
      name: 'sounder',
      modes: [
        { kind: 'distance', unit: 'cm', min: 3, max: 200, step: 0.1, samplePeriodMs: 60, noReading: 255 },
      ],
    },
    { id: 'gyro', name: 'gyro', modes: [{ kind: 'heading', ...angle }] },
  ],
};

/** A robot with a bumper on K1, a sounder on K2, a floor eye on K3 and a gyro on K5. */
export const fullBuild: RobotBuild = {
  ...built(),
  fittings: [
    {
      socket: 'K1',
      sensorId: 'bumper',
      mode: 'touch',
      aheadMm: 110,
      rightMm: 0,
      heightMm: 30,
      facing: 'ahead',
    },
    {
      socket: 'K2',
      sensorId: 'sounder',
      mode: 'distance',
      aheadMm: 104,
      rightMm: 0,
      heightMm: 60,
      facing: 'ahead',
    },
    ...built().fittings,
    { socket: 'K5', sensorId: 'gyro', mode: 'heading', aheadMm: 0, rightMm: 0, heightMm: 60 },
  ],
};

/** Stop on the line. */
export const lesson: Lesson = {
  slug: 'stop',
  title: 'Stop',
  aim: '',
  minutes: 50,
  need: { kind: 'light', socket: 'K3', name: 'floor' },
  read: {
    burst: 5,
    tasks: [
      { surface: 'line', role: 'dark', reflectance: line.reflectance, how: '' },
      { surface: 'floor', role: 'light', reflectance: floor.reflectance, how: '' },
    ],
  },
  startScript: '',
  modelScript: 'drive 30 %\nwait until floor < threshold\nstop',
  course: stopLine({ name: 'stop', base: floor, line, lineWidthMm: 18, approachMm: 420 }),
  expectations: [
    { kind: 'stops past', landmark: 'near-edge', withinMm: 30 },
    { kind: 'comes to rest' },
    { kind: 'done within', seconds: 10 },
  ],
  conditions: {
    alongMm: [-60, 60],
    acrossMm: [-25, 25],
    bearingDeg: [-3, 3],
    lightShift: [-4, 4],
    mismatch: [-0.01, 0.01],
  },
  proof: { runs: 20, bar: 0.8, seed: 11 },
  timeLimitS: 15,
  floor: { trials: 3, landmark: 'near-edge' },
  cautions: [],
};
