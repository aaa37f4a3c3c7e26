import type { Box, Course, Landmark, Mark, Point, Start, Surface, Wall, Zone } from './course.ts';

/** The lists of a course that can be edited by hand. */
export const courseLists = ['marks', 'walls', 'boxes', 'zones', 'starts', 'landmarks'] as const;
export type CourseList = (typeof courseLists)[number];

/** One thing on a course. */
export interface ItemRef {
  list: CourseList;
  index: number;
}

type Item = Mark | Wall | Box | Zone | Start | Landmark;

/** A number of a thing that can be typed. Lengths in mm, angles in degrees, times in s. */
export interface ItemField {
  /** Where it stands in the thing: “from.xMm”. */
  path: string;
  name: string;
  unit: string;
  value: number;
}

export const itemsOf = (course: Course, list: CourseList): readonly Item[] => course[list] ?? [];
export const itemAt = (course: Course, { list, index }: ItemRef): Item | undefined =>
  itemsOf(course, list)[index];

/** What a thing is called in a list. */
export function itemName(course: Course, { list, index }: ItemRef): string {
  const item = itemAt(course, { list, index });
  if (!item) return '';
  switch (list) {
    case 'marks': {
      const mark = item as Mark;
      return `${mark.kind}: ${mark.surface.name}`;
    }
    case 'walls':
      return `wall ${index + 1}`;
    case 'starts':
      return `start ${(item as Start).name}`;
    default:
      return (item as Box | Zone | Landmark).name;
  }
}

const withItem = (course: Course, { list, index }: ItemRef, change: (item: Item) => Item): Course => ({
  ...course,
  [list]: itemsOf(course, list).map((item, i) => (i === index ? change(item) : item)),
});

const moved = (point: Point, dx: number, dy: number): Point => ({ xMm: point.xMm + dx, yMm: point.yMm + dy });

/** Moves everything in a thing that is a place. */
function shifted<T>(thing: T, dx: number, dy: number): T {
  if (Array.isArray(thing)) return thing.map((part: unknown) => shifted(part, dx, dy)) as T;
  if (thing === null || typeof thing !== 'object') return thing;
  const parts = Object.fromEntries(
    Object.entries(thing).map(([key, value]) => [key, shifted(value as unknown, dx, dy)]),
  );
  return (
    'xMm' in parts && 'yMm' in parts ? { ...parts, ...moved(parts as unknown as Point, dx, dy) } : parts
  ) as T;
}

/** A place of a thing that stands for all of it when it is moved and snapped. */
export function anchorOf(item: Item): Point {
  if ('xMm' in item) return item;
  if ('corner' in item) return item.corner;
  if ('centre' in item) return item.centre;
  if ('points' in item) return item.points[0]!;
  return item.from;
}

/** A number on a grid. */
export const snap = (value: number, grid: number): number =>
  grid > 0 ? Math.round(value / grid) * grid : value;

/** Moves a thing by so much, its anchor snapped to a grid of `grid` mm (0: not at all). */
export function moveItem(course: Course, ref: ItemRef, dx: number, dy: number, grid = 0): Course {
  const item = itemAt(course, ref);
  if (!item) return course;
  const from = anchorOf(item);
  const [toX, toY] = [snap(from.xMm + dx, grid), snap(from.yMm + dy, grid)];
  return withItem(course, ref, (one) => shifted(one, toX - from.xMm, toY - from.yMm));
}

/** Takes a thing out; tracks that follow a mark which is gone go too, and later ones keep to their mark. */
export function removeItem(course: Course, { list, index }: ItemRef): Course {
  const rest = { ...course, [list]: itemsOf(course, list).filter((_, i) => i !== index) };
  if (list !== 'marks' || !course.tracks) return rest;
  return {
    ...rest,
    tracks: course.tracks
      .filter(({ mark }) => mark !== index)
      .map((track) => (track.mark > index ? { ...track, mark: track.mark - 1 } : track)),
  };
}

const fieldNames: Record<string, [name: string, unit: string]> = {
  xMm: ['to the right', 'mm'],
  yMm: ['up the mat', 'mm'],
  widthMm: ['width', 'mm'],
  heightMm: ['height', 'mm'],
  depthMm: ['depth', 'mm'],
  radiusMm: ['radius', 'mm'],
  fromDeg: ['from bearing', '°'],
  toDeg: ['to bearing', '°'],
  bearingDeg: ['bearing', '°'],
  turnDeg: ['turned', '°'],
  fromS: ['comes at', 's'],
  toS: ['leaves at', 's'],
  speedMmPerS: ['speed', 'mm/s'],
  reflectance: ['reflectance', '0–1'],
};
/** Names of places in the order they are read; all others come before them, as they stand. */
const places = ['corner', 'centre', 'from', 'to', 'xMm', 'yMm', 'widthMm', 'heightMm', 'depthMm', 'radiusMm'];
const partNames: Record<string, string> = {
  from: 'from, ',
  to: 'to, ',
  corner: 'corner, ',
  centre: 'middle, ',
  surface: '',
  stays: '',
  moves: 'moves ',
};

/** Every number of a thing that can be typed, in the order it is kept. Paths of many points are left to the drawing. */
export function fieldsOfItem(item: Item): ItemField[] {
  const found: ItemField[] = [];
  const visit = (thing: unknown, path: string, words: string) => {
    if (thing === null || typeof thing !== 'object') return;
    // What comes from a store may have its names in any order: people read from before to.
    const entries = Object.entries(thing).sort(([a], [b]) => places.indexOf(a) - places.indexOf(b));
    for (const [key, value] of entries) {
      const at = path ? `${path}.${key}` : key;
      const facts = fieldNames[key];
      if (typeof value === 'number' && facts) {
        found.push({ path: at, name: `${words}${facts[0]}`, unit: facts[1], value });
      } else if (key !== 'points' && key !== 'colour') visit(value, at, `${words}${partNames[key] ?? ''}`);
    }
  };
  visit(item, '', '');
  return found;
}

function put(thing: unknown, [key, ...rest]: string[], value: unknown): unknown {
  if (key === undefined) return value;
  if (Array.isArray(thing))
    return thing.map((part: unknown, i) => (String(i) === key ? put(part, rest, value) : part));
  const record = thing as Record<string, unknown>;
  return Object.hasOwn(record, key) ? { ...record, [key]: put(record[key], rest, value) } : record;
}

/** Writes another number or text in a thing's place; what is not there is not made. */
export const setField = (course: Course, ref: ItemRef, path: string, value: unknown): Course =>
  withItem(course, ref, (item) => put(item, path.split('.'), value) as Item);

/** Makes a box one that is pushed along, or one that stands fast. */
export const setLight = (course: Course, index: number, light: boolean): Course => ({
  ...course,
  boxes: (course.boxes ?? []).map(({ light: _, ...box }, i) =>
    (i === index ? light : _) ? { ...box, light: true } : box,
  ),
});

const free = (taken: readonly { id: string }[] | undefined, stem: string): string => {
  for (let n = 1; ; n++) if (!taken?.some(({ id }) => id === `${stem}-${n}`)) return `${stem}-${n}`;
};

/** Things that can be put on a course. */
export const newItems = [
  'line',
  'card',
  'disc',
  'wall',
  'box',
  'post',
  'place',
  'start',
  'landmark',
] as const;
export type NewItem = (typeof newItems)[number];

/** Puts a new thing in the middle of a course; says where it is. */
export function addItem(course: Course, what: NewItem, surface: Surface): { course: Course; ref: ItemRef } {
  const [x, y] = [snap(course.widthMm / 2, 10), snap(course.heightMm / 2, 10)];
  const at = (dx: number, dy: number): Point => ({ xMm: x + dx, yMm: y + dy });
  const add = (list: CourseList, item: Item) => ({
    course: { ...course, [list]: [...itemsOf(course, list), item] },
    ref: { list, index: itemsOf(course, list).length },
  });
  switch (what) {
    case 'line':
      return add('marks', { kind: 'stripe', surface, from: at(-100, 0), to: at(100, 0), widthMm: 20 });
    case 'card':
      return add('marks', { kind: 'rectangle', surface, corner: at(-50, -40), widthMm: 100, heightMm: 80 });
    case 'disc':
      return add('marks', { kind: 'disc', surface, centre: at(0, 0), radiusMm: 60 });
    case 'wall':
      return add('walls', { from: at(-150, 0), to: at(150, 0) });
    case 'box': {
      const id = free(course.boxes, 'box');
      return add('boxes', {
        id,
        name: id.replace('-', ' '),
        ...at(0, 0),
        widthMm: 120,
        depthMm: 80,
        turnDeg: 0,
      });
    }
    case 'post': {
      const id = free(course.boxes, 'post');
      return add('boxes', {
        id,
        name: id.replace('-', ' '),
        ...at(0, 0),
        widthMm: 60,
        depthMm: 60,
        round: true,
      });
    }
    case 'place': {
      const id = free(course.zones, 'place');
      return add('zones', {
        id,
        name: id.replace('-', ' '),
        kind: 'rectangle',
        corner: at(-100, -100),
        widthMm: 200,
        heightMm: 200,
      });
    }
    case 'start': {
      const names = new Set(course.starts.map(({ name }) => name));
      const name = [...'ABCDEFGHIJKL'].find((letter) => !names.has(letter)) ?? 'Z';
      return add('starts', { name, ...at(0, 0), bearingDeg: 0 });
    }
    case 'landmark': {
      const id = free(course.landmarks, 'edge');
      return add('landmarks', { id, name: id.replace('-', ' '), ...at(0, 0), bearingDeg: 0 });
    }
  }
}
