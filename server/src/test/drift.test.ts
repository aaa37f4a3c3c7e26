import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Ajv2020 } from 'ajv/dist/2020.js';
import fc from 'fast-check';
import { LESSON_FORMAT, LESSON_FORMAT_VERSION } from '@vigilum/core/formats';
import { fileKinds, fileSchemas, publishedSchema, type FileKind } from '@vigilum/contract/files';
import type { ClassReport } from '@vigilum/core/year';
import { cobbleBuild } from '../starter/build.ts';
import { cobbleTalk } from '../starter/cobbleTalk.ts';
import { harbourLessons } from '../starter/lessons/index.ts';
import { skiffBuild } from '../starter/skiff.ts';
import { shippedKits } from '../starter/starter.ts';

/** A team that did one lesson. */
const sampleReport: ClassReport = {
  format: 'vigilum-report',
  version: 1,
  class: { id: 1, name: '7 Kittiwake', school: 'Ternmouth Harbour School' },
  span: { name: 'First term', from: 1e12, to: 1.1e12 },
  madeAt: 1.1e12,
  skills: [{ id: 'loops', name: 'loops and waits', shows: 'a proved script' }],
  teams: [
    {
      id: 1,
      name: 'Gannet',
      members: ['Auk'],
      skills: [{ skill: 'loops', standing: 'shown', lastAt: 1.05e12, reason: null }],
      lessons: [
        {
          slug: 'first-watch',
          title: 'First watch',
          at: 1.05e12,
          proof: { passes: 48, runs: 50, verdict: 'proved' },
          floor: { kept: 3, of: 3 },
          predictions: { right: 1, of: 2 },
          wrote: ['It waits.'],
        },
      ],
    },
  ],
  lessons: [
    {
      slug: 'first-watch',
      title: 'First watch',
      at: 1.05e12,
      teams: 1,
      proved: 1,
      runs: { passes: 48, of: 50, low: 0.87, high: 0.99 },
    },
  ],
  growth: [{ at: 1.05e12, seen: 1, shown: 1 }],
  predictions: { right: 1, of: 2 },
};

const plain = (file: unknown): Json => JSON.parse(JSON.stringify(file)) as Json;
/** What ships with Vigilum, as it would stand in files. */
const samples: Record<FileKind, Json[]> = {
  lesson: harbourLessons.map((lesson) =>
    plain({ format: LESSON_FORMAT, version: LESSON_FORMAT_VERSION, lesson }),
  ),
  course: harbourLessons.map(({ course }) => plain(course)),
  kit: shippedKits.map(plain),
  'robot-build': [cobbleBuild, skiffBuild].map(plain),
  phrasebook: [plain(cobbleTalk)],
  series: [
    plain({
      format: 'vigilum-series',
      version: 1,
      name: 'First steps',
      aim: '',
      from: 'Sandbank School',
      lessons: harbourLessons.slice(0, 2),
      skills: [{ id: 'own-tidy', name: 'tidies up', shows: 'a tidy shelf', needs: ['loops'], lessons: [] }],
      kits: shippedKits,
    }),
  ],
  report: [plain(sampleReport)],
  'run-log': [
    plain({
      name: 'run of Tuesday',
      times: [0, 0.1, 0.2],
      signals: {
        floor: { unit: '%', values: [71, null, 23.5] },
        front: { unit: 'cm', values: [44, 43, 41] },
      },
    }),
  ],
};

type Json = null | boolean | number | string | Json[] | { [key: string]: Json };
type Path = (string | number)[];

/** Every place of a file, with what stands there. */
function places(value: Json, at: Path = []): Path[] {
  const inside: Path[] = [];
  if (Array.isArray(value)) value.forEach((item, i) => inside.push(...places(item, [...at, i])));
  else if (value !== null && typeof value === 'object')
    for (const [key, item] of Object.entries(value)) inside.push(...places(item, [...at, key]));
  return [at, ...inside];
}

const at = (value: Json, path: Path): Json =>
  path.reduce<Json>((v, key) => (v as Record<string | number, Json>)[key]!, value);

/** A slip at one place: what stands there becomes something else, goes, or gets company. */
function slipped(file: Json, path: Path, slip: number, word: string): Json {
  const whole = structuredClone(file);
  if (path.length === 0) return whole;
  const parent = at(whole, path.slice(0, -1)) as Record<string | number, Json>;
  const key = path.at(-1)!;
  const old = parent[key]!;
  const put = (value: Json) => {
    parent[key] = value;
    return whole;
  };
  const numeric = typeof old === 'number';
  const choices: (() => Json)[] = [
    () => {
      if (Array.isArray(parent)) parent.splice(Number(key), 1);
      else delete parent[key];
      return whole;
    },
    () => put(null),
    () => put(''),
    () => put('   '),
    () => put(typeof old === 'string' ? `${old} ` : 'text '),
    () => put(typeof old === 'string' ? ` ${old}` : 1e9),
    () => put(numeric ? -old - 1 : -1),
    () => put(numeric ? old * 1000 + 0.5 : 0.5),
    () => put(numeric ? String(old) : 7),
    () => put('x'.repeat(250)),
    () => put(word),
    () => put([]),
    () => put({}),
    () => put([old, old]),
    () => put(true),
    () => {
      if (old !== null && typeof old === 'object' && !Array.isArray(old)) old[word || 'more'] = 1;
      else if (Array.isArray(old)) old.push(old[0] ?? word);
      return whole;
    },
    () => put(Array.isArray(old) ? Array.from({ length: 300 }, () => old[0] ?? 'x') : 1e-9),
  ];
  return choices[slip % choices.length]!();
}

const compiled = new Map<FileKind, (file: unknown) => boolean>();
function published(kind: FileKind): (file: unknown) => boolean {
  let validate = compiled.get(kind);
  if (!validate) {
    validate = new Ajv2020({ allErrors: false }).compile(publishedSchema(kind)) as (f: unknown) => boolean;
    compiled.set(kind, validate);
  }
  return validate;
}
const taken = (kind: FileKind, file: unknown): boolean =>
  fileSchemas[kind].schema.validate(file, { convert: false }).error === undefined;

describe('the published JSON Schemas', () => {
  it.each(fileKinds)('are what the contract makes: %s', (kind) => {
    const file = join(import.meta.dirname, '../../../docs/schemas', `${kind}.schema.json`);
    expect(JSON.parse(readFileSync(file, 'utf8'))).toEqual(publishedSchema(kind));
  });

  it.each(fileKinds)('take what ships with Vigilum: %s', (kind) => {
    expect(samples[kind].length).toBeGreaterThan(0);
    for (const file of samples[kind])
      expect([taken(kind, file), published(kind)(file)]).toEqual([true, true]);
  });

  it('say which format a lesson file has', () => {
    expect(published('lesson')({ ...(samples.lesson[0] as object), format: 'other' })).toBe(false);
    expect(samples.lesson[0]).toMatchObject({ format: LESSON_FORMAT, version: LESSON_FORMAT_VERSION });
  });

  it('judge 3,600 files with one slip each as the server does', () => {
    let refused = 0;
    const differing: string[] = [];
    for (const kind of fileKinds) {
      const files = samples[kind];
      const known = files.map((file) => places(file));
      fc.assert(
        fc.property(
          fc.nat(),
          fc.nat(),
          fc.nat(),
          fc.string({ maxLength: 20 }),
          (which, where, slip, word) => {
            const n = which % files.length;
            const path = known[n]![where % known[n]!.length]!;
            const file = slipped(files[n]!, path, slip, word);
            const [ours, theirs] = [taken(kind, file), published(kind)(file)];
            if (!ours) refused++;
            if (ours !== theirs)
              differing.push(
                `${kind} ${path.join('.')}: ${JSON.stringify(at(file, path) ?? 'gone').slice(0, 60)} ours ${ours}`,
              );
          },
        ),
        { numRuns: 600, seed: 20261128 },
      );
    }
    expect(differing).toEqual([]);
    // A slip generator that never hits anything would prove nothing.
    expect(refused).toBeGreaterThan(1500);
  });
});
