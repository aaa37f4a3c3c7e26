import type { Input } from './worksheet.ts';

export const diameter: Input = {
  key: 'diameter',
  label: 'wheel diameter',
  unit: 'mm',
  usual: 68,
  min: 5,
  max: 500,
};
export const track: Input = {
  key: 'track',
  label: 'distance between the wheels',
  unit: 'mm',
  usual: 120,
  min: 10,
  max: 1000,
};
export const speed: Input = { key: 'speed', label: 'speed', unit: 'mm/s', usual: 160, min: 1, max: 3000 };
export const sample: Input = {
  key: 'sample',
  label: 'time between two looks',
  unit: 'ms',
  usual: 50,
  min: 1,
  max: 2000,
};
export const step: Input = {
  key: 'step',
  label: 'time of one program step',
  unit: 'ms',
  usual: 5,
  min: 0,
  max: 500,
};
export const delay: Input = {
  key: 'delay',
  label: 'delay of the motor command',
  unit: 'ms',
  usual: 8,
  min: 0,
  max: 500,
};
export const brake: Input = {
  key: 'brake',
  label: 'braking time constant τ',
  unit: 'ms',
  usual: 45,
  min: 0,
  max: 3000,
};

export const limit: Input = {
  key: 'limit',
  label: 'most that a wheel loses of its speed',
  unit: 'mm/s²',
  usual: 4000,
  min: 100,
  max: 100_000,
};

export type Values = Readonly<Record<string, number>>;
export const reaction = (v: Values) => ({
  samplePeriodS: v.sample! / 1000,
  stepTimeS: v.step! / 1000,
  commandDelayS: v.delay! / 1000,
  tauBrakeS: v.brake! / 1000,
  accelLimitMmPerS2: v.limit!,
});
