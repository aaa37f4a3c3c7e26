import type { KitForm } from './kitForm.ts';

/** A number of a kit's drive as the form asks for it: in words, and by which trial it is found. */
export interface DriveField {
  field: keyof KitForm &
    (
      | 'topDegPerS'
      | 'tauDriveS'
      | 'tauBrakeS'
      | 'tauCoastS'
      | 'commandDelayMs'
      | 'deadPercent'
      | 'accelLimitMmPerS2'
      | 'wallFriction'
      | 'stepTimeMs'
    );
  word: string;
  says: string;
  least: number;
  most: number;
}

export const driveFields: readonly DriveField[] = [
  {
    field: 'topDegPerS',
    word: 'full speed, degrees of wheel in a second',
    says: 'Drive at 100 % for 2 s: wheel degrees on the motor’s counter, divided by 2. Most kits: 600 to 1000.',
    least: 10,
    most: 10_000,
  },
  {
    field: 'tauDriveS',
    word: 'run-up τ, s',
    says: 'After this time a wheel has two thirds of the speed it was told. Too quick to see: keep 0.05 to 0.15.',
    least: 0.001,
    most: 5,
  },
  {
    field: 'tauBrakeS',
    word: 'braking τ, s',
    says: 'After “stop”, a third of the speed is left after this time. A robot’s page Measure finds it from stops and timed ways.',
    least: 0.001,
    most: 5,
  },
  {
    field: 'tauCoastS',
    word: 'rolling free τ, s',
    says: 'The same after “coast”: the way it rolls on, divided by its speed.',
    least: 0.001,
    most: 10,
  },
  {
    field: 'commandDelayMs',
    word: 'delay of a command, ms',
    says: 'From the step to the motor’s first answer. Measure tells it from braking where stops and timed ways are logged.',
    least: 0,
    most: 1000,
  },
  {
    field: 'deadPercent',
    word: 'least speed that turns a wheel, %',
    says: 'Try drive 1 %, 2 %, 3 % …: the first that moves it. Empty: it always turns.',
    least: 0,
    most: 30,
  },
  {
    field: 'accelLimitMmPerS2',
    word: 'most gain or loss of speed, mm/s in a second',
    says: 'How hard its motors pull and brake. Measure finds it from stops at a slow and at full speed. Empty: no limit.',
    least: 100,
    most: 100_000,
  },
  {
    field: 'wallFriction',
    word: 'friction at walls, rise ÷ run',
    says: 'Lay the robot’s front on a board and tilt it: the slope at which it slides. Empty or 0: it slides freely.',
    least: 0,
    most: 2,
  },
  {
    field: 'stepTimeMs',
    word: 'time of a program step, ms',
    says: 'Let it count in a loop for 10 s: 10,000 divided by what it counted.',
    least: 0.1,
    most: 1000,
  },
];
