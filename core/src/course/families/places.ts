import type { Course, Point, Wall } from '../course.ts';
import { at, bare, count, darkTape, greenCard, length, start, type CourseFamily } from './family.ts';

/** A wall across the way. */
export const quayFamily: CourseFamily = {
  id: 'quay',
  name: 'Quay wall',
  says: 'A straight wall ahead, to be stopped short of.',
  parameters: [
    length('distanceMm', 'from the front to the wall', 150, 1800, 1000),
    length('widthMm', 'mat width', 400, 1500, 700),
  ],
  build: ({ distanceMm, widthMm }) => {
    // The front of a robot is about 110 mm ahead of its axle.
    const wall = 150 + 110 + distanceMm!;
    const x = widthMm! / 2;
    const course = bare('Quay wall', widthMm!, wall + 40, [
      start('A', x, 150),
      start('B', x - widthMm! / 6, 200, 3),
      start('C', x + widthMm! / 6, 120, -3),
    ]);
    course.walls = [{ from: at(0, wall), to: at(widthMm!, wall) }];
    course.landmarks = [{ id: 'quay', name: 'quay wall', xMm: x, yMm: wall, bearingDeg: 0 }];
    return course;
  },
};

/** A room with walls all round. */
export const boathouseFamily: CourseFamily = {
  id: 'boathouse',
  name: 'Boathouse',
  says: 'A room with walls all round and crates in it, to bump about in.',
  parameters: [
    length('widthMm', 'width', 700, 2500, 1500),
    length('heightMm', 'length', 700, 2500, 1200),
    count('crates', 'crates', 0, 3, 1),
  ],
  build: ({ widthMm, heightMm, crates }) => {
    const [w, h] = [widthMm!, heightMm!];
    const course = bare('Boathouse', w, h, [
      start('A', w * 0.25, h * 0.3),
      start('B', w * 0.3, h * 0.7, 90),
      start('C', w * 0.7, h * 0.3, -60),
    ]);
    course.rim = 'wall';
    course.boxes = [
      { xMm: w * 0.72, yMm: h * 0.72 },
      { xMm: w * 0.5, yMm: h * 0.5 },
      { xMm: w * 0.15, yMm: h * 0.85 },
    ]
      .slice(0, crates)
      .map((place, i) => ({
        id: `crate-${i + 1}`,
        name: `crate ${i + 1}`,
        ...place,
        widthMm: 160,
        depthMm: 120,
        turnDeg: 15 * i,
      }));
    return course;
  },
};

/** A table with a drop all round, and a wall near one end. */
export const pierFamily: CourseFamily = {
  id: 'pier',
  name: 'Pier',
  says: 'A long table with a drop on three sides and a wall at the fourth, to go up and down on.',
  parameters: [length('lengthMm', 'length', 900, 2400, 1500), length('widthMm', 'width', 500, 1400, 800)],
  build: ({ lengthMm, widthMm }) => {
    const x = widthMm! / 2;
    const course = bare('Pier', widthMm!, lengthMm!, [
      start('A', x, 420),
      // At a slant towards one edge: one eye sees it long before the other.
      start('B', x + 0.2 * widthMm!, 440, 10),
      start('C', x - 0.2 * widthMm!, 440, -10),
      start('D', x + 60, 460, 178),
    ]);
    course.base = { name: 'pier planks', reflectance: 0.6 };
    course.rim = 'drop';
    course.walls = [{ from: at(10, 30), to: at(widthMm! - 10, 30) }];
    course.zones = [
      {
        id: 'head',
        name: 'pier head',
        kind: 'rectangle',
        corner: at(0, lengthMm! - 420),
        widthMm: widthMm!,
        heightMm: 420,
      },
      { id: 'root', name: 'wall end', kind: 'rectangle', corner: at(0, 0), widthMm: widthMm!, heightMm: 480 },
    ];
    return course;
  },
};

/** Open floor. */
export const openWaterFamily: CourseFamily = {
  id: 'open-water',
  name: 'Open water',
  says: 'Free floor, for turns, bearings and buttons.',
  parameters: [length('widthMm', 'width', 400, 3000, 1600), length('heightMm', 'length', 400, 3000, 1600)],
  build: ({ widthMm, heightMm }) =>
    bare('Open water', widthMm!, heightMm!, [
      start('A', widthMm! * 0.3, heightMm! * 0.2),
      start('B', widthMm! * 0.35, heightMm! * 0.25, 10),
    ]),
};

/** A long room seen from its middle: one end is nearer than the other. */
export const forkFamily: CourseFamily = {
  id: 'fork',
  name: 'Two ways',
  says: 'A wall ahead and two ways, one longer than the other; from the second start they are the other way round.',
  parameters: [
    length('shortMm', 'short way', 250, 800, 420),
    length('longMm', 'long way', 500, 1700, 1050),
    length('widthMm', 'width of the way', 400, 900, 620),
  ],
  build: ({ shortMm, longMm, widthMm }) => {
    const [w, h] = [shortMm! + longMm!, widthMm!];
    const course = bare('Two ways', w, h, [
      start('A', shortMm!, h / 2 - 20),
      start('B', shortMm!, h / 2 + 20, 180),
    ]);
    course.rim = 'wall';
    course.zones = [
      {
        id: 'roomy',
        name: 'roomier way',
        kind: 'rectangle',
        corner: at(shortMm! + 110, 0),
        widthMm: longMm! - 110,
        heightMm: h,
      },
    ];
    return course;
  },
};

/** Walls round a way of cells: between two neighbours of the way there is none. */
function wallsRound(cells: readonly (readonly [number, number])[], size: number, from: Point): Wall[] {
  const walls: Wall[] = [];
  const joined = (a: number, col: number, row: number) =>
    [a - 1, a + 1].some((b) => cells[b]?.[0] === col && cells[b]?.[1] === row);
  cells.forEach(([col, row], i) => {
    const [x, y] = [from.xMm + col * size, from.yMm + row * size];
    const sides: [number, number, Point, Point][] = [
      [col, row + 1, at(x, y + size), at(x + size, y + size)],
      [col + 1, row, at(x + size, y), at(x + size, y + size)],
      [col, row - 1, at(x, y), at(x + size, y)],
      [col - 1, row, at(x, y), at(x, y + size)],
    ];
    for (const [c, r, a, b] of sides) if (!joined(i, c, r)) walls.push({ from: a, to: b });
  });
  return walls;
}

/** A way of cells between walls, with turns to both sides and a green berth at its end. */
export const basinFamily: CourseFamily = {
  id: 'basin',
  name: 'Basin',
  says: 'A way between walls with turns to both sides, and a green berth at its end.',
  parameters: [
    length('cellMm', 'width of the way', 340, 600, 420),
    count('turns', 'turns', 1, 4, 3),
    count('mirrored', 'mirrored (0 or 1)', 0, 1, 0),
  ],
  build: ({ cellMm, turns, mirrored }) => {
    const size = cellMm!;
    // Up two, right two, up two, right two, up two; the way ends after the wanted number of turns.
    const cells: [number, number][] = [[0, 0]];
    for (let leg = 0; leg <= turns!; leg++) {
      for (let i = 0; i < 2; i++) {
        const [col, row] = cells.at(-1)!;
        cells.push(leg % 2 === 0 ? [col, row + 1] : [col + 1, row]);
      }
    }
    const columns = Math.max(...cells.map(([col]) => col)) + 1;
    const rows = Math.max(...cells.map(([, row]) => row)) + 1;
    const [w, h] = [columns * size + 60, rows * size + 60];
    const flip = <P extends Point>(point: P): P =>
      mirrored === 1 ? { ...point, xMm: w - point.xMm } : point;
    const middle = ([col, row]: readonly [number, number]) =>
      at(30 + (col + 0.5) * size, 30 + (row + 0.5) * size);
    const berth = middle(cells.at(-1)!);
    const first = middle(cells[0]!);
    const course: Course = bare('Basin', w, h, [
      start('A', first.xMm, first.yMm - 20),
      start('B', first.xMm - 20, first.yMm, 1),
      start('C', first.xMm + 20, first.yMm, -1),
    ]);
    course.starts = course.starts.map((s) => ({
      ...flip(s),
      bearingDeg: mirrored === 1 ? -s.bearingDeg : s.bearingDeg,
    }));
    course.walls = wallsRound(cells, size, at(30, 30)).map(({ from, to }) => ({
      from: flip(from),
      to: flip(to),
    }));
    const corner = flip(at(berth.xMm, berth.yMm));
    course.marks = [
      {
        kind: 'rectangle',
        surface: greenCard,
        corner: at(corner.xMm - size / 2, corner.yMm - size / 2),
        widthMm: size,
        heightMm: size,
      },
    ];
    const zone = (id: string, name: string, place: Point) => ({
      id,
      name,
      kind: 'rectangle' as const,
      corner: at(flip(place).xMm - size / 2, place.yMm - size / 2),
      widthMm: size,
      heightMm: size,
    });
    course.zones = [
      ...cells
        .filter((_, i) => i > 0 && i % 2 === 0 && i < cells.length - 1)
        .map((cell, i) => zone(`turn-${i + 1}`, `turn ${i + 1}`, middle(cell))),
      // The robot may stop with its eye on the card and its axle still before it.
      {
        ...zone('berth', 'berth', berth),
        corner: at(corner.xMm - size / 2 - 100, corner.yMm - size / 2 - 100),
        widthMm: size + 200,
        heightMm: size + 100,
      },
    ];
    return course;
  },
};

/** A round island with a dark border, and another robot on it. */
export const islandFamily: CourseFamily = {
  id: 'island',
  name: 'Island',
  says: 'A round island with a dark border and another robot on it, to be found and pushed off.',
  parameters: [
    length('radiusMm', 'radius of the island', 350, 900, 520),
    length('borderMm', 'width of the border', 20, 80, 45),
    length('speedMm', 'speed of the other robot, mm a second', 0, 120, 40),
  ],
  build: ({ radiusMm, borderMm, speedMm }) => {
    const r = radiusMm!;
    const c = r + 150;
    const course = bare('Island', 2 * c, 2 * c, [
      start('A', c, c - r / 3, 180),
      start('B', c - r / 4, c, -90),
      start('C', c, c, 120),
    ]);
    course.base = { name: 'sea', reflectance: 0.45 };
    course.marks = [
      { kind: 'disc', surface: { ...darkTape, name: 'border' }, centre: at(c, c), radiusMm: r },
      {
        kind: 'disc',
        surface: { name: 'island', reflectance: 0.8 },
        centre: at(c, c),
        radiusMm: r - borderMm!,
      },
    ];
    course.zones = [{ id: 'island', name: 'island', kind: 'disc', centre: at(c, c), radiusMm: r }];
    course.opponent = {
      name: 'the other robot',
      xMm: c + r / 5,
      yMm: c + r / 2.5,
      bearingDeg: 90,
      radiusMm: 65,
      does: speedMm! > 0 ? 'circles' : 'stands',
      speedMmPerS: speedMm!,
      gives: 0.85,
    };
    return course;
  },
};

/** A lamp to be found. */
export const beaconFamily: CourseFamily = {
  id: 'beacon',
  name: 'Beacon',
  says: 'A lamp that sends infrared, to be found and driven up to.',
  parameters: [
    length('distanceMm', 'beacon, from the start', 500, 2000, 1150),
    length('asideMm', 'beacon, to the right', 0, 900, 500),
  ],
  build: ({ distanceMm, asideMm }) => {
    const beacon = at(500 + asideMm!, 250 + distanceMm!);
    const course = bare('Beacon', beacon.xMm + 500, beacon.yMm + 350, [
      start('A', 500, 250),
      start('B', 450, 300, 80),
      start('C', 550, 300, -140),
    ]);
    course.beacon = beacon;
    course.boxes = [
      {
        id: 'lamp',
        name: 'beacon',
        ...at(beacon.xMm, beacon.yMm + 70),
        widthMm: 60,
        depthMm: 60,
        round: true,
      },
    ];
    course.zones = [
      { id: 'light', name: 'light of the beacon', kind: 'disc', centre: beacon, radiusMm: 400 },
    ];
    return course;
  },
};
