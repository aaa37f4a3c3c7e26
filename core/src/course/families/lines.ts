import type { Course, Mark, Point } from '../course.ts';
import { stopLine } from '../stopLine.ts';
import { radians, sin, cos } from '../../quantity/index.ts';
import {
  at,
  bare,
  blueCard,
  boards,
  count,
  darkTape,
  greenCard,
  length,
  orangeCard,
  redCard,
  start,
  yellowCard,
  type CourseFamily,
} from './family.ts';

/** One dark line across the way. */
export const stopLineFamily: CourseFamily = {
  id: 'stop-line',
  name: 'Stop line',
  says: 'One dark line across the way, to be stopped on.',
  parameters: [
    length('lineWidthMm', 'line width', 8, 60, 18),
    length('approachMm', 'way up to the line', 250, 1500, 420),
    length('widthMm', 'mat width', 250, 1200, 400),
  ],
  build: ({ lineWidthMm, approachMm, widthMm }) =>
    stopLine({
      name: 'Stop line',
      base: boards,
      line: { ...darkTape, name: 'tide line' },
      lineWidthMm: lineWidthMm!,
      approachMm: approachMm!,
      widthMm: widthMm!,
    }),
};

const across = (course: Course, surface: Mark['surface'], yMm: number, widthMm: number): Mark => ({
  kind: 'stripe',
  surface,
  from: at(30, yMm),
  to: at(course.widthMm - 30, yMm),
  widthMm,
});

/** Lines to count, with coloured rivals between them and a wall at the end. */
export const lanesFamily: CourseFamily = {
  id: 'lanes',
  name: 'Lanes',
  says: 'Dark lines to count, coloured ones that must not count, and a wall at the end.',
  parameters: [
    count('lines', 'dark lines', 1, 12, 5),
    count('rivals', 'coloured lines', 0, 4, 2),
    length('lineWidthMm', 'line width', 10, 60, 20),
    length('apartMm', 'from line to line', 60, 300, 110),
  ],
  build: ({ lines, rivals, lineWidthMm, apartMm }) => {
    const [first, width] = [330, 500];
    const all = lines! + rivals!;
    const height = first + all * apartMm! + 330;
    const course = bare('Lanes', width, height, [
      start('A', width / 2, 150),
      start('B', width / 2 - 70, 130, 3),
      start('C', width / 2 + 70, 130, -3),
    ]);
    // Rivals lie between dark lines, as evenly as they can.
    const isRival = (i: number) => Math.floor(((i + 1) * rivals!) / all) > Math.floor((i * rivals!) / all);
    let met = 0;
    for (let i = 0; i < all; i++) {
      const surface = isRival(i) ? [yellowCard, orangeCard][met++ % 2]! : { ...darkTape, name: 'lane line' };
      course.marks.push(across(course, surface, first + i * apartMm!, lineWidthMm!));
    }
    course.walls = [{ from: at(0, height - 20), to: at(width, height - 20) }];
    return course;
  },
};

/** Points of a way that goes straight, bends and goes on; the bearing is kept in `deg`. */
class Way {
  readonly points: Point[];
  deg: number;
  constructor(from: Point, deg: number) {
    this.points = [from];
    this.deg = deg;
  }
  ahead(mm: number): this {
    const { xMm, yMm } = this.points.at(-1)!;
    const b = radians(this.deg);
    this.points.push(at(xMm + mm * sin(b), yMm + mm * cos(b)));
    return this;
  }
  /** A bend to the right by `deg` (negative: left) of a radius. */
  bend(deg: number, radiusMm: number): this {
    const steps = Math.max(1, Math.ceil(Math.abs(deg) / 5));
    const chord = 2 * radiusMm * sin(radians(Math.abs(deg) / steps) / 2);
    for (let i = 0; i < steps; i++) {
      this.deg += deg / steps / 2;
      this.ahead(chord);
      this.deg += deg / steps / 2;
    }
    return this;
  }
}

/** A dark line to follow: straight, a gentle bend, a sharp one, and a red berth at its end. */
export const channelFamily: CourseFamily = {
  id: 'channel',
  name: 'Channel',
  says: 'A dark line to follow by its left edge: straight, gentle bend, sharp bend, red berth.',
  parameters: [
    length('lineWidthMm', 'line width', 15, 60, 30),
    length('straightMm', 'first straight', 200, 1500, 450),
    length('gentleMm', 'radius of the gentle bend', 250, 900, 400),
    length('sharpMm', 'radius of the sharp bend', 90, 400, 170),
    { ...count('bendDeg', 'angle of each bend', 20, 90, 60), unit: 'deg' },
  ],
  build: ({ lineWidthMm, straightMm, gentleMm, sharpMm, bendDeg }) => {
    const way = new Way(at(0, 0), 0)
      .ahead(straightMm!)
      .bend(bendDeg!, gentleMm!)
      .ahead(150)
      .bend(-bendDeg!, sharpMm!)
      .ahead(200);
    const right = Math.max(...way.points.map((p) => p.xMm));
    const top = Math.max(...way.points.map((p) => p.yMm));
    const [dx, dy] = [220, 150];
    const points = way.points.map((p) => at(p.xMm + dx, p.yMm + dy));
    const end = points.at(-1)!;
    const course = bare('Channel', right + dx + 260, top + dy + 260, [
      start('A', dx - lineWidthMm! / 2, dy),
      start('B', dx - lineWidthMm! / 2 - 3, dy + 30, 2),
      start('C', dx - lineWidthMm! / 2 + 3, dy + 30, -2),
    ]);
    course.marks = [
      { kind: 'path', surface: { ...darkTape, name: 'channel' }, points, widthMm: lineWidthMm! },
      {
        kind: 'rectangle',
        surface: redCard,
        corner: at(end.xMm - 110, end.yMm),
        widthMm: 220,
        heightMm: 120,
      },
    ];
    course.tracks = [{ id: 'left', name: 'left edge of the channel', mark: 0, side: 'left' }];
    course.zones = [
      {
        id: 'berth',
        name: 'berth',
        kind: 'rectangle',
        corner: at(end.xMm - 110, end.yMm - 110),
        widthMm: 220,
        heightMm: 230,
      },
    ];
    return course;
  },
};

/** A straight line to go up and down, with a green card at both ends and traffic across it. */
export const fairwayFamily: CourseFamily = {
  id: 'fairway',
  name: 'Fairway with traffic',
  says: 'A straight line with a green card at each end, and a ferry that lies across it for a while.',
  parameters: [
    length('lengthMm', 'length of the line', 800, 2400, 1100),
    length('ferryMm', 'ferry, from the start', 350, 1600, 620),
    { id: 'comesS', name: 'ferry comes', unit: 's', from: 0, to: 10, usual: 1 },
    { id: 'leavesS', name: 'ferry leaves', unit: 's', from: 2, to: 30, usual: 9 },
  ],
  build: ({ lengthMm, ferryMm, comesS, leavesS }) => {
    const [x, low] = [300, 150];
    const high = low + lengthMm!;
    const course = bare('Fairway', 600, high + 150, [
      start('A', x - 15, low + 110),
      start('B', x - 18, low + 130, 2),
      start('C', x - 12, low + 130, -2),
    ]);
    course.marks = [
      {
        kind: 'stripe',
        surface: { ...darkTape, name: 'fairway' },
        from: at(x, low),
        to: at(x, high),
        widthMm: 30,
      },
      { kind: 'rectangle', surface: greenCard, corner: at(x - 110, high - 40), widthMm: 220, heightMm: 110 },
      { kind: 'rectangle', surface: greenCard, corner: at(x - 110, low - 70), widthMm: 220, heightMm: 110 },
    ];
    course.boxes = [
      {
        id: 'ferry',
        name: 'ferry',
        ...at(x, low + 110 + ferryMm!),
        widthMm: 240,
        depthMm: 80,
        stays: [{ fromS: comesS!, toS: Math.max(leavesS!, comesS! + 1) }],
      },
    ];
    course.tracks = [{ id: 'left', name: 'left edge of the fairway', mark: 0, side: 'left' }];
    course.zones = [
      {
        id: 'north',
        name: 'north end',
        kind: 'rectangle',
        corner: at(x - 150, high - 260),
        widthMm: 300,
        heightMm: 300,
      },
      {
        id: 'south',
        name: 'south end',
        kind: 'rectangle',
        corner: at(x - 150, low - 40),
        widthMm: 300,
        heightMm: 300,
      },
    ];
    return course;
  },
};

/** A straight line with a post on it. */
export const buoyFamily: CourseFamily = {
  id: 'buoy',
  name: 'Line with a buoy',
  says: 'A straight line to follow, with a round buoy standing on it.',
  parameters: [
    length('buoyAtMm', 'buoy, from the start', 400, 1200, 620),
    length('buoyMm', 'width of the buoy', 50, 160, 80),
    length('beyondMm', 'line beyond the buoy', 600, 2000, 1050),
  ],
  build: ({ buoyAtMm, buoyMm, beyondMm }) => {
    const [x, low] = [400, 150];
    const buoyY = low + buoyAtMm!;
    const high = buoyY + beyondMm!;
    const course = bare('Buoy', 900, high + 100, [
      start('A', x - 15, low),
      start('B', x - 18, low + 20, 2),
      start('C', x - 12, low + 20, -2),
    ]);
    course.marks = [
      {
        kind: 'stripe',
        surface: { ...darkTape, name: 'fairway' },
        from: at(x, 40),
        to: at(x, high),
        widthMm: 30,
      },
    ];
    course.boxes = [
      { id: 'buoy', name: 'buoy', ...at(x, buoyY), widthMm: buoyMm!, depthMm: buoyMm!, round: true },
    ];
    course.tracks = [{ id: 'left', name: 'left edge of the fairway', mark: 0, side: 'left' }];
    course.zones = [
      {
        id: 'beyond',
        name: 'stretch beyond the buoy',
        kind: 'rectangle',
        corner: at(x - 70, buoyY + 300),
        widthMm: 140,
        heightMm: beyondMm! - 300,
      },
    ];
    return course;
  },
};

/** Coloured cards in a row. */
export const cargoFamily: CourseFamily = {
  id: 'cargo',
  name: 'Row of cargo',
  says: 'Coloured cards in a row, to be told apart one after the other.',
  parameters: [
    length('apartMm', 'from card to card', 100, 300, 160),
    length('cardMm', 'length of a card', 40, 120, 80),
    count('cards', 'cards', 1, 5, 3),
    ...['first', 'second', 'third', 'fourth', 'fifth'].map((nth, i) =>
      count(nth, `${nth} card: 1 red, 2 green, 3 blue, 4 yellow, 5 orange`, 1, 5, i + 1),
    ),
  ],
  build: ({ apartMm, cardMm, cards, first, second, third, fourth, fifth }) => {
    const colours = [redCard, greenCard, blueCard, yellowCard, orangeCard];
    const row = [first!, second!, third!, fourth!, fifth!].slice(0, cards).map((n) => colours[n - 1]!);
    // The first card's middle lies one distance ahead of the eye of a robot at start A.
    const eye = 150 + 80;
    const course = bare('Cargo', 400, eye + apartMm! * (cards! + 1) + 150, [
      start('A', 200, 150),
      start('B', 180, 150, 1),
      start('C', 220, 150, -1),
    ]);
    course.marks = row.map((surface, i) => ({
      kind: 'rectangle',
      surface,
      corner: at(90, eye + apartMm! * (i + 1) + 8 * (i + 1) - cardMm! / 2),
      widthMm: 220,
      heightMm: cardMm!,
    }));
    return course;
  },
};
