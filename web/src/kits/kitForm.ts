import { typedNumber } from '@vigilum/core/quantity';
import {
  cleanKit,
  usualModes,
  type Facing,
  type Kit,
  type ReadingUnit,
  type SensorKind,
  type SensorMode,
} from '@vigilum/core/sensing';

/** A kit while it is typed: numbers are texts until the form is read. */
export interface ModeForm {
  kind: SensorKind;
  unit: ReadingUnit;
  min: string;
  max: string;
  step: string;
  samplePeriodMs: string;
  noReading: string;
  /** What it counts at the lowest and at the highest reading: “910 to 130”; empty where it tells none. */
  raw: string;
  colours: string;
}
export interface SensorForm {
  id: string;
  name: string;
  faces: Facing | '';
  mountFrom: string;
  mountTo: string;
  mountAdvice: string;
  modes: ModeForm[];
}
export interface KitForm {
  slug: string;
  name: string;
  sockets: { name: string; takes: 'sensor' | 'motor'; drives: string; label: string }[];
  sensors: SensorForm[];
  topDegPerS: string;
  tauDriveS: string;
  tauBrakeS: string;
  tauCoastS: string;
  commandDelayMs: string;
  deadPercent: string;
  accelLimitMmPerS2: string;
  wallFriction: string;
  stepTimeMs: string;
  atEnd: 'stop' | 'roll';
  rollMs: string;
}

/** Numbers of the drive that a kit need not say. */
export const needNotBeSaid = ['deadPercent', 'accelLimitMmPerS2', 'wallFriction'] as const;

const text = (value: number | undefined): string => (value === undefined ? '' : String(value));

const modeForm = (mode: SensorMode): ModeForm => ({
  kind: mode.kind,
  unit: mode.unit,
  min: text(mode.min),
  max: text(mode.max),
  step: text(mode.step),
  samplePeriodMs: text(mode.samplePeriodMs),
  noReading: text(mode.noReading),
  raw: mode.raw ? `${mode.raw.atMin} to ${mode.raw.atMax}` : '',
  colours: (mode.colours ?? []).join(', '),
});

/** A mode as sensors of its kind usually have it. */
export const newMode = (kind: SensorKind = 'light'): ModeForm => modeForm(usualModes[kind]);

export const newSensor = (n: number): SensorForm => ({
  id: `sensor-${n}`,
  name: `sensor ${n}`,
  faces: '',
  mountFrom: '',
  mountTo: '',
  mountAdvice: '',
  modes: [newMode()],
});

/** The next socket for sensors: the last one's name with the number after it, else the first free of S1, S2 … */
export function newSocket(sockets: readonly { name: string; takes: string }[]): KitForm['sockets'][number] {
  const taken = new Set(sockets.map(({ name }) => name.trim().toLowerCase()));
  const last = sockets.filter(({ takes }) => takes === 'sensor').at(-1)?.name ?? '';
  const stem = /^([A-Za-z_]+)\d+$/.exec(last.trim())?.[1] ?? 'S';
  let n = 1;
  while (taken.has(`${stem}${n}`.toLowerCase())) n++;
  return { name: `${stem}${n}`, takes: 'sensor', drives: '', label: '' };
}

/** What a new kit starts from. */
export const blankKit: KitForm = {
  slug: '',
  name: '',
  sockets: [
    { name: 'S1', takes: 'sensor', drives: '', label: '' },
    { name: 'S2', takes: 'sensor', drives: '', label: '' },
    { name: 'L', takes: 'motor', drives: 'left wheel', label: '' },
    { name: 'R', takes: 'motor', drives: 'right wheel', label: '' },
  ],
  sensors: [newSensor(1)],
  topDegPerS: '800',
  tauDriveS: '0.08',
  tauBrakeS: '0.05',
  tauCoastS: '0.3',
  commandDelayMs: '10',
  deadPercent: '2',
  accelLimitMmPerS2: '4000',
  wallFriction: '0.3',
  stepTimeMs: '5',
  atEnd: 'stop',
  rollMs: '500',
};

export const formOfKit = (kit: Kit): KitForm => ({
  slug: kit.slug,
  name: kit.name,
  sockets: kit.sockets.map(({ name, takes, drives = '', label = '' }) => ({ name, takes, drives, label })),
  sensors: kit.sensors.map(({ id, name, faces, mountMm, mountAdvice = '', modes }) => ({
    id,
    name,
    faces: faces ?? ('' as const),
    mountFrom: text(mountMm?.from),
    mountTo: text(mountMm?.to),
    mountAdvice,
    modes: modes.map(modeForm),
  })),
  topDegPerS: text(kit.drive.topDegPerS),
  tauDriveS: text(kit.drive.tauDriveS),
  tauBrakeS: text(kit.drive.tauBrakeS),
  tauCoastS: text(kit.drive.tauCoastS),
  commandDelayMs: text(kit.drive.commandDelayMs),
  deadPercent: text(kit.drive.deadPercent),
  accelLimitMmPerS2: text(kit.drive.accelLimitMmPerS2),
  wallFriction: text(kit.drive.wallFriction),
  stepTimeMs: text(kit.stepTimeMs),
  atEnd: kit.atProgramEnd.kind,
  rollMs: kit.atProgramEnd.kind === 'roll' ? text(kit.atProgramEnd.forMs) : '500',
});

/** The kit that a form describes; what is empty is left out. */
/** “910 to 130” as what a part counts at its two ends; nothing where nothing is typed, no numbers where it is no such pair. */
function rawOf(typed: string): { raw?: { atMin: number; atMax: number } } {
  if (typed.trim() === '') return {};
  const [from = '', to = ''] = typed.split(/\s+to\s+|\s*…\s*|\s*;\s*/);
  return { raw: { atMin: typedNumber(from), atMax: typedNumber(to) } };
}

export const kitOfForm = (form: KitForm): Kit =>
  cleanKit({
    slug: form.slug.trim(),
    name: form.name.trim(),
    sockets: form.sockets.map(({ name, takes, drives, label }) => ({
      name: name.trim(),
      takes,
      drives: drives.trim(),
      label: label.trim(),
    })),
    sensors: form.sensors.map(({ id, name, faces, mountFrom, mountTo, mountAdvice, modes }) => ({
      id: id.trim(),
      name: name.trim(),
      modes: modes.map((mode) => ({
        kind: mode.kind,
        unit: mode.unit,
        min: typedNumber(mode.min),
        max: typedNumber(mode.max),
        step: typedNumber(mode.step),
        samplePeriodMs: typedNumber(mode.samplePeriodMs),
        ...(mode.noReading.trim() === '' ? {} : { noReading: typedNumber(mode.noReading) }),
        ...rawOf(mode.raw),
        colours: mode.colours
          .split(',')
          .map((word) => word.trim())
          .filter((word) => word !== ''),
      })),
      ...(faces === '' ? {} : { faces }),
      ...(mountFrom.trim() === '' && mountTo.trim() === ''
        ? {}
        : { mountMm: { from: typedNumber(mountFrom), to: typedNumber(mountTo) } }),
      mountAdvice: mountAdvice.trim(),
    })),
    drive: {
      topDegPerS: typedNumber(form.topDegPerS),
      tauDriveS: typedNumber(form.tauDriveS),
      tauBrakeS: typedNumber(form.tauBrakeS),
      tauCoastS: typedNumber(form.tauCoastS),
      commandDelayMs: typedNumber(form.commandDelayMs),
      ...Object.fromEntries(
        needNotBeSaid.flatMap((field) =>
          form[field].trim() === '' ? [] : [[field, typedNumber(form[field])] as const],
        ),
      ),
    },
    stepTimeMs: typedNumber(form.stepTimeMs),
    atProgramEnd:
      form.atEnd === 'stop' ? { kind: 'stop' } : { kind: 'roll', forMs: typedNumber(form.rollMs) },
  });
