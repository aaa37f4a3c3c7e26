import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  addItem,
  boards,
  boxPlace,
  buildCourse,
  courseFamilies,
  courseLists,
  fieldsOfItem,
  insideZone,
  isThere,
  itemAt,
  itemName,
  itemsOf,
  lightAt,
  lightField,
  markDistance,
  MARGIN_MM,
  moveItem,
  newItems,
  OVERLAP_MM,
  papers,
  removeItem,
  rightAlong,
  rightOf,
  setField,
  solidsAt,
  surfaceIndexAt,
  surfaceMap,
  tilesOf,
  type Course,
} from './index.ts';

describe('families of courses', () => {
  it.each(courseFamilies.map((family) => [family.name, family] as const))(
    '%s: holds for any numbers',
    (_, family) => {
      const values = fc.record(
        Object.fromEntries(
          family.parameters.map(({ id, from, to }) => [
            id,
            fc.double({ min: from - 50, max: to + 50, noNaN: true }),
          ]),
        ),
      );
      fc.assert(
        fc.property(values, (given) => {
          const course = buildCourse(family, given);
          const inside = course.starts.every(
            ({ xMm, yMm }) => xMm > 0 && yMm > 0 && xMm < course.widthMm && yMm < course.heightMm,
          );
          const tracked = (course.tracks ?? []).every(({ mark }) =>
            ['path', 'stripe', 'arc'].includes(course.marks[mark]?.kind ?? ''),
          );
          return (
            inside && tracked && course.starts.length > 0 && course.widthMm < 6000 && course.heightMm < 6000
          );
        }),
        { numRuns: 40 },
      );
    },
  );

  it('counts lines and rivals as asked', () => {
    const lanes = courseFamilies.find(({ id }) => id === 'lanes')!;
    const dark = (course: Course) =>
      course.marks.filter(({ surface }) => surface.name === 'lane line').length;
    for (const [lines, rivals] of [
      [5, 2],
      [1, 0],
      [12, 4],
      [3, 3],
    ] as const) {
      const course = buildCourse(lanes, { lines, rivals });
      expect([dark(course), course.marks.length - dark(course)]).toEqual([lines, rivals]);
    }
  });
});

describe('things on a course', () => {
  it('are there, and where, at their times', () => {
    expect([0, 1, 2.9, 3].map((s) => isThere([{ fromS: 1, toS: 3 }], s))).toEqual([false, true, true, false]);
    const box = {
      id: 'b',
      name: 'b',
      xMm: 0,
      yMm: 0,
      widthMm: 10,
      depthMm: 10,
      moves: { to: { xMm: 100, yMm: 0 }, fromS: 1, speedMmPerS: 50 },
    };
    expect([0, 2, 3, 4, 5].map((s) => boxPlace(box, s).xMm)).toEqual([0, 50, 100, 50, 0]);
  });

  it('an arc has round ends and the width it says', () => {
    const arc = {
      kind: 'arc',
      surface: boards,
      centre: { xMm: 0, yMm: 0 },
      radiusMm: 100,
      fromDeg: 0,
      toDeg: 90,
      widthMm: 20,
    } as const;
    expect(markDistance(arc, 0, 100)).toBeCloseTo(-10, 9);
    expect(markDistance(arc, 130, 0)).toBeCloseTo(20, 9);
    expect(markDistance(arc, 0, -100)).toBeGreaterThan(100);
  });

  it('a place to the right of a way counts positive, to its left negative', () => {
    const way = [
      { xMm: 0, yMm: 0 },
      { xMm: 0, yMm: 100 },
      { xMm: 100, yMm: 100 },
    ];
    expect([
      rightOf(way, 20, 50),
      rightOf(way, -20, 50),
      rightOf(way, 50, 120),
      rightOf(way, 50, 80),
    ]).toEqual([20, -20, -20, 20]);
  });

  it('zones tell how deep, negative outside; colours lie under their millimetre; beyond a drop is nothing', () => {
    expect(
      insideZone({ id: 'z', name: 'z', kind: 'disc', centre: { xMm: 0, yMm: 0 }, radiusMm: 50 }, 30, 40),
    ).toBe(0);
    const course = { ...buildCourse(courseFamilies.find(({ id }) => id === 'pier')!), rim: 'drop' as const };
    const map = surfaceMap(course);
    expect([
      surfaceIndexAt(map, 100, 100, true),
      surfaceIndexAt(map, -5, 100, true),
      surfaceIndexAt(map, -5, 100, false),
    ]).toEqual([0, 255, 0]);
    expect(lightAt(lightField(course, 3), -20, 100)).toBe(0);
    expect(solidsAt(course, 0)).toHaveLength(1);
  });
});

describe('editing by hand', () => {
  const first = buildCourse(courseFamilies.find(({ id }) => id === 'channel')!);
  it('adds everything, names it, moves it on the grid and takes it out again', () => {
    for (const what of newItems) {
      const { course, ref } = addItem(first, what, boards);
      expect(itemName(course, ref).length).toBeGreaterThan(1);
      const moved = moveItem(course, ref, 33, -14, 10);
      expect(moved).not.toEqual(course);
      expect(removeItem(moved, ref)).toEqual({ ...first, [ref.list]: itemsOf(first, ref.list) });
    }
  });

  it('moving there and back changes nothing', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...courseLists),
        fc.nat(3),
        fc.integer({ min: -300, max: 300 }),
        fc.integer({ min: -300, max: 300 }),
        (list, index, dx, dy) => {
          const there = moveItem(first, { list, index }, dx, dy);
          const back = moveItem(there, { list, index }, -dx, -dy);
          const [a, b] = [itemAt(first, { list, index }), itemAt(back, { list, index })];
          return (
            JSON.stringify(a, (_, v: unknown) => (typeof v === 'number' ? Math.round(v) : v)) ===
            JSON.stringify(b, (_, v: unknown) => (typeof v === 'number' ? Math.round(v) : v))
          );
        },
      ),
    );
  });

  it('writes typed numbers where they stand, and makes nothing that is not there', () => {
    const ref = { list: 'marks', index: 1 } as const;
    const fields = fieldsOfItem(itemAt(first, ref)!);
    expect(fields.map(({ path }) => path)).toEqual(
      expect.arrayContaining(['corner.xMm', 'widthMm', 'surface.reflectance']),
    );
    const wider = setField(first, ref, 'widthMm', 300);
    expect(itemAt(wider, ref)).toMatchObject({ widthMm: 300 });
    expect(setField(first, ref, '__proto__.polluted', 1)).toEqual(first);
    expect(setField(first, ref, 'nowhere.deep', 1)).toEqual(first);
  });

  it('a track goes with its mark, and others keep to theirs', () => {
    const two = {
      ...first,
      marks: [first.marks[1]!, ...first.marks],
      tracks: [{ ...first.tracks![0]!, mark: 1 }],
    };
    expect(removeItem(two, { list: 'marks', index: 0 }).tracks![0]!.mark).toBe(0);
    expect(removeItem(two, { list: 'marks', index: 1 }).tracks).toEqual([]);
  });
});

describe('printing', () => {
  it('covers every millimetre at true size, neighbours overlapping, on either paper', () => {
    const size = fc.integer({ min: 100, max: 3000 });
    fc.assert(
      fc.property(
        size,
        size,
        fc.constantFrom('A4', 'Letter'),
        fc.boolean(),
        (widthMm, heightMm, paper, sideways) => {
          const { tiles, columns, rows } = tilesOf({ widthMm, heightMm }, paper, sideways);
          const sheet = papers[paper as 'A4'];
          const wide = (sideways ? sheet.heightMm : sheet.widthMm) - 2 * MARGIN_MM;
          const right = Math.max(...tiles.map((t) => t.xMm + t.widthMm));
          const top = Math.max(...tiles.map((t) => t.yMm + t.heightMm));
          return (
            tiles.length === columns * rows &&
            Math.abs(right - widthMm) < 1e-6 &&
            Math.abs(top - heightMm) < 1e-6 &&
            tiles.every((t) => t.widthMm > 0 && t.widthMm <= wide + 1e-9) &&
            (columns === 1 || Math.abs(tiles[1]!.xMm + OVERLAP_MM - wide) < 1e-6)
          );
        },
      ),
    );
  });
});

describe('how far right of a line, along a trail', () => {
  it('is to the bit what it is point by point, for any line, trail, standstill and jump', () => {
    const at = fc.record({
      xMm: fc.double({ min: -500, max: 500, noNaN: true }),
      yMm: fc.double({ min: -500, max: 500, noNaN: true }),
    });
    fc.assert(
      fc.property(
        fc.array(at, { maxLength: 30 }),
        fc.array(
          fc.tuple(
            fc.double({ min: -6, max: 6, noNaN: true }),
            fc.double({ min: -6, max: 6, noNaN: true }),
            fc.boolean(),
          ),
          {
            minLength: 1,
            maxLength: 60,
          },
        ),
        (line, moves) => {
          const along = rightAlong(line);
          let [x, y] = [0, 0];
          for (const [dx, dy, jumps] of moves) {
            [x, y] = [x + dx * (jumps ? 60 : 1), y + dy * (jumps ? 60 : 1)];
            expect(along(x, y)).toBe(rightOf(line, x, y));
          }
        },
      ),
      { numRuns: 300 },
    );
  });
});
