// A kit, a robot and a lesson for the tests of several folders.
import { stopLine } from '../course/index.ts';
import type { Lesson } from '../lesson/index.ts';
import type { Kit, RobotBuild } from '../sensing/index.ts';

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
  drive: { topDegPerS: 900, tauDriveS: 0.07, tauBrakeS: 0.045, tauCoastS: 0.3, commandDelayMs: 8 },
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
