import { found, refused, type Outcome } from '../quantity/index.ts';
import { cleanKit, kitFaults } from './kitFaults.ts';
import type { Facing, Kit, SensorKind, SensorSpec } from './kit.ts';
import { usualModes } from './usualModes.ts';

const usualPart = (id: string, name: string, kinds: SensorKind[], faces?: Facing): SensorSpec => ({
  id,
  name,
  modes: kinds.map((kind) => usualModes[kind]),
  ...(faces ? { faces } : {}),
});

/** Sensors as most kits have them (common practice): what a kit of one’s own can have besides those of another. */
export const usualParts: readonly SensorSpec[] = [
  usualPart('touch-sensor', 'touch sensor', ['touch'], 'ahead'),
  {
    ...usualPart('light-sensor', 'light sensor', ['light', 'ambient'], 'down'),
    mountMm: { from: 6, to: 16 },
  },
  {
    ...usualPart('colour-sensor', 'colour sensor', ['colour', 'rgb', 'light'], 'down'),
    mountMm: { from: 6, to: 16 },
  },
  usualPart('distance-sensor', 'distance sensor', ['distance'], 'ahead'),
  usualPart('infrared-sensor', 'infrared sensor', ['proximity'], 'ahead'),
  usualPart('beacon-seeker', 'beacon seeker', ['beacon'], 'ahead'),
  usualPart('gyro', 'gyro', ['heading', 'spin']),
];

/** Usual sensors that measure something which a kit cannot. */
export function partsBeside(kit: Kit): SensorSpec[] {
  const has = new Set(kit.sensors.flatMap(({ modes }) => modes.map(({ kind }) => kind)));
  return usualParts.filter(({ modes }) => !has.has(modes[0]!.kind));
}

/** What a kit of one’s own is, said by another: the same, but for these. */
export interface KitWish {
  slug: string;
  name: string;
  /** Its parts, of the other kit’s and the usual ones. */
  parts: readonly SensorSpec[];
  /** What is printed beside its sockets for sensors, with blanks or commas between. */
  sockets: string;
}

/**
 * “The same as … but”: motors, times and units from a kit that is known, parts and sockets from what is in the cupboard. Refused with the
 * first thing that contradicts itself.
 */
export function kitLike(template: Kit, { slug, name, parts, sockets }: KitWish): Outcome<Kit> {
  const names = sockets.split(/[\s,;]+/).filter((word) => word !== '');
  if (name.trim() === '') return refused('A kit needs a name.', 'Say what is printed on its box.');
  if (parts.length === 0) return refused('A kit without a sensor measures nothing.', 'Tick what is in it.');
  if (names.length === 0)
    return refused(
      'A kit needs sockets for sensors.',
      'Say what is printed beside them, such as S1 S2 S3 S4.',
    );
  const kit = cleanKit({
    ...template,
    slug,
    name: name.trim(),
    sensors: [...parts],
    sockets: [
      ...names.map((socket) => ({ name: socket, takes: 'sensor' as const })),
      ...template.sockets.filter(({ takes }) => takes === 'motor'),
    ],
  });
  const [fault] = kitFaults(kit);
  return fault
    ? refused(`${fault.says[0]!.toUpperCase()}${fault.says.slice(1)}.`, 'Change it here.')
    : found(kit);
}
