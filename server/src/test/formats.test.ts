import { describe, expect, it } from '@jest/globals';
import { createRequire } from 'node:module';
import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { readCsv } from '@vigilum/core/formats';
import type { Kit, RobotBuild } from '@vigilum/core/sensing';
import { buildSchema, kitSchema } from '@vigilum/contract/files';
import { cobbleBuild } from '../starter/build.ts';
import { skiffBuild } from '../starter/skiff.ts';
import { shippedKits } from '../starter/starter.ts';

const published = (name: string) =>
  new Ajv2020({ allErrors: true }).compile(
    JSON.parse(
      readFileSync(join(import.meta.dirname, '../../../docs/schemas', `${name}.schema.json`), 'utf8'),
    ) as object,
  );

/** What strangers may write into a file, each as a change to something sound. */
const slips: [string, (kit: Record<string, unknown> & Kit) => void][] = [
  ['nothing', () => undefined],
  ['a name too many', (k) => (k.owner = 'me')],
  ['no drive', (k) => delete (k as Partial<Kit>).drive],
  ['a slug with a space', (k) => (k.slug = 'my kit')],
  ['a number as text', (k) => (k.stepTimeMs = '5' as unknown as number)],
  ['an unknown kind', (k) => (k.sensors[0]!.modes[0]!.kind = 'laser' as 'light')],
  ['an unknown unit', (k) => (k.sensors[0]!.modes[0]!.unit = 'lux' as '%')],
  ['no mode', (k) => (k.sensors[0]!.modes = [])],
  ['a step of nothing', (k) => (k.sensors[0]!.modes[0]!.step = 0)],
  ['a socket with markup', (k) => (k.sockets[0]!.name = '<b>')],
  ['an end that is none', (k) => (k.atProgramEnd = { kind: 'explode' } as unknown as Kit['atProgramEnd'])],
  ['a roll without a time', (k) => (k.atProgramEnd = { kind: 'roll' } as unknown as Kit['atProgramEnd'])],
  [
    'a stop with a time',
    (k) => (k.atProgramEnd = { kind: 'stop', forMs: 5 } as unknown as Kit['atProgramEnd']),
  ],
  ['too many colours', (k) => (k.sensors[0]!.modes[0]!.colours = Array<string>(33).fill('red'))],
  ['a period beyond measure', (k) => (k.sensors[0]!.modes[0]!.samplePeriodMs = 1e9)],
];

describe('the published JSON Schemas', () => {
  it('hold for the kits and builds that ship with Vigilum', () => {
    const [kit, build] = [published('kit'), published('robot-build')];
    for (const shipped of shippedKits)
      expect([shipped.name, kit(shipped), kit.errors]).toEqual([shipped.name, true, null]);
    for (const b of [cobbleBuild, skiffBuild]) expect([build(b), build.errors]).toEqual([true, null]);
  });

  it.each(slips)('and the server judge a kit with %s alike', (_, slip) => {
    const kit = structuredClone(shippedKits[0]!) as Record<string, unknown> & Kit;
    slip(kit);
    const { error } = kitSchema.validate(kit, { convert: false });
    expect(published('kit')(kit)).toBe(error === undefined);
  });

  it('and the server judge a build alike', () => {
    const validate = published('robot-build');
    const bad: ((b: RobotBuild & Record<string, unknown>) => void)[] = [
      (b) => (b.wheelDiameterMm = -1),
      (b) => (b.fittings[0]!.facing = 'inward' as 'down'),
      (b) => (b.paint = 'red'),
      (b) => (b.quirks = ['']),
      (b) => (b.fittings[0]!.heightMm = '12' as unknown as number),
    ];
    for (const slip of bad) {
      const build = structuredClone(cobbleBuild) as RobotBuild & Record<string, unknown>;
      slip(build);
      expect([validate(build), buildSchema.validate(build, { convert: false }).error === undefined]).toEqual([
        false,
        false,
      ]);
    }
  });
});

describe('CSV', () => {
  it('is read as the acceptance files of csv-spectrum ask', () => {
    const folder = dirname(createRequire(import.meta.url).resolve('csv-spectrum/package.json'));
    // One of them is not UTF-8 and does not agree with its own answer.
    const files = readdirSync(join(folder, 'csvs')).filter(
      (f) => f.endsWith('.csv') && f !== 'location_coordinates.csv',
    );
    expect(files.length).toBeGreaterThan(8);
    for (const file of files) {
      const { records } = readCsv(readFileSync(join(folder, 'csvs', file), 'utf8'));
      const [header = [], ...data] = records.map(({ fields }) => fields);
      const wanted = JSON.parse(
        readFileSync(join(folder, 'json', file.replace('.csv', '.json')), 'utf8'),
      ) as unknown;
      const objects = data.map((fields) => Object.fromEntries(header.map((name, i) => [name, fields[i]])));
      expect([file, objects]).toEqual([file, wanted]);
    }
  });
});
