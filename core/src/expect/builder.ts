import type { Course } from '../course/index.ts';
import type { Expectation, ExpectationKind } from './sentences.ts';

/** What a field of a sentence holds: a number in a unit, a text, or something on the course. */
export type FieldKind =
  | 'mm'
  | 'cm'
  | 's'
  | 'deg'
  | '%'
  | 'cm/s'
  | 'number'
  | 'text'
  | 'texts'
  | 'landmark'
  | 'zone'
  | 'zones'
  | 'track'
  | 'box'
  | 'happening'
  | 'formula';

/** How many of the model's units one shown unit of a field is. */
export const perShown: Partial<Record<FieldKind, number>> = { cm: 10, '%': 0.01, 'cm/s': 10 };

export interface ExpectationField {
  id: string;
  label: string;
  is: FieldKind;
}

/** A kind of sentence that a teacher may choose. */
export interface ExpectationChoice {
  kind: ExpectationKind;
  /** The sentence with gaps: “ends with a gap of … to what is ahead”. */
  title: string;
  fields: readonly ExpectationField[];
  /** A first one of its kind for a course; null where the course has nothing that it could speak of. */
  fresh: (course: Course) => Expectation | null;
}

const field = (id: string, label: string, is: FieldKind): ExpectationField => ({ id, label, is });
const solid = (course: Course): boolean =>
  course.rim === 'wall' || (course.walls ?? []).length > 0 || (course.boxes ?? []).length > 0;
const where = <T>(found: T | undefined, make: (found: T) => Expectation): Expectation | null =>
  found === undefined ? null : make(found);

/** Every kind of sentence, the commonest first. */
export const expectationChoices: readonly ExpectationChoice[] = [
  {
    kind: 'stops past',
    title: 'stops within … past a line',
    fields: [field('withinMm', 'at most past it, mm', 'mm'), field('landmark', 'which line', 'landmark')],
    fresh: ({ landmarks }) =>
      where(landmarks[0], ({ id }) => ({ kind: 'stops past', landmark: id, withinMm: 30 })),
  },
  {
    kind: 'ends with gap',
    title: 'ends with a gap of … ± … to what is ahead',
    fields: [field('gapMm', 'gap, cm', 'cm'), field('toleranceMm', 'give or take, cm', 'cm')],
    fresh: (course) => (solid(course) ? { kind: 'ends with gap', gapMm: 150, toleranceMm: 20 } : null),
  },
  {
    kind: 'backs off by',
    title: 'backs off by … ± … from its nearest',
    fields: [field('byMm', 'by, cm', 'cm'), field('toleranceMm', 'give or take, cm', 'cm')],
    fresh: (course) => (solid(course) ? { kind: 'backs off by', byMm: 130, toleranceMm: 20 } : null),
  },
  { kind: 'comes to rest', title: 'comes to rest', fields: [], fresh: () => ({ kind: 'comes to rest' }) },
  {
    kind: 'done within',
    title: 'is done within … s',
    fields: [field('seconds', 'seconds', 's')],
    fresh: () => ({ kind: 'done within', seconds: 20 }),
  },
  {
    kind: 'still running',
    title: 'is still at work after … s',
    fields: [field('seconds', 'seconds', 's')],
    fresh: () => ({ kind: 'still running', seconds: 30 }),
  },
  {
    kind: 'never touches',
    title: 'never touches a wall or a box',
    fields: [],
    fresh: (course) => (solid(course) ? { kind: 'never touches' } : null),
  },
  {
    kind: 'keeps clear',
    title: 'keeps … clear of walls and boxes',
    fields: [field('roomMm', 'room, mm', 'mm')],
    fresh: (course) => (solid(course) ? { kind: 'keeps clear', roomMm: 30 } : null),
  },
  {
    kind: 'never over the edge',
    title: 'never goes over the edge',
    fields: [],
    fresh: ({ rim }) => (rim === 'drop' ? { kind: 'never over the edge' } : null),
  },
  {
    kind: 'shows',
    title: 'shows … at the end',
    fields: [field('text', 'text', 'text')],
    fresh: () => ({ kind: 'shows', text: '5' }),
  },
  {
    kind: 'shows in order',
    title: 'shows …, then …',
    fields: [field('texts', 'texts, one a line', 'texts')],
    fresh: () => ({ kind: 'shows in order', texts: ['red', 'green'] }),
  },
  {
    kind: 'counts',
    title: 'counts … ± …',
    fields: [field('count', 'count', 'number'), field('tolerance', 'give or take', 'number')],
    fresh: () => ({ kind: 'counts', count: 5, tolerance: 0 }),
  },
  {
    kind: 'net turn',
    title: 'ends turned by … ± …',
    fields: [
      field('deg', 'degrees, right counts up', 'deg'),
      field('toleranceDeg', 'give or take, degrees', 'deg'),
    ],
    fresh: () => ({ kind: 'net turn', deg: 90, toleranceDeg: 5 }),
  },
  {
    kind: 'holds bearing',
    title: 'holds a bearing within … from … s on',
    fields: [
      field('deg', 'degrees from the start', 'deg'),
      field('withinDeg', 'within, degrees', 'deg'),
      field('fromS', 'from, s', 's'),
      field('share', 'share of the time, %', '%'),
    ],
    fresh: () => ({ kind: 'holds bearing', deg: 90, withinDeg: 5, fromS: 3, share: 0.95 }),
  },
  {
    kind: 'stays on track',
    title: 'stays within … of an edge for … % of the run',
    fields: [
      field('withinMm', 'within, mm', 'mm'),
      field('track', 'which edge', 'track'),
      field('share', 'share of the run, %', '%'),
    ],
    fresh: ({ tracks }) =>
      where(tracks?.[0], ({ id }) => ({ kind: 'stays on track', track: id, withinMm: 25, share: 0.95 })),
  },
  {
    kind: 'visits',
    title: 'visits places in this order',
    fields: [field('zones', 'places', 'zones')],
    fresh: ({ zones }) => where(zones?.[0], ({ id }) => ({ kind: 'visits', zones: [id] })),
  },
  {
    kind: 'ends in',
    title: 'ends in a place',
    fields: [field('zone', 'which place', 'zone')],
    fresh: ({ zones }) => where(zones?.[0], ({ id }) => ({ kind: 'ends in', zone: id })),
  },
  {
    kind: 'waits for',
    title: 'waits while something is there and goes on within … s after',
    fields: [field('box', 'what', 'box'), field('withinS', 'within, s', 's')],
    fresh: ({ boxes }) =>
      where(
        boxes?.find(({ stays }) => stays?.at(-1)?.toS),
        ({ id }) => ({ kind: 'waits for', box: id, withinS: 2 }),
      ),
  },
  {
    kind: 'bumps',
    title: 'bumps into something at least … times',
    fields: [field('atLeast', 'times', 'number')],
    fresh: (course) => (solid(course) ? { kind: 'bumps', atLeast: 3 } : null),
  },
  {
    kind: 'backs off after bumps',
    title: 'reverses at least … after every bump',
    fields: [field('atLeastMm', 'at least, cm', 'cm')],
    fresh: (course) => (solid(course) ? { kind: 'backs off after bumps', atLeastMm: 100 } : null),
  },
  {
    kind: 'soon after',
    title: 'within … s after something, something else',
    fields: [
      field('seconds', 'seconds', 's'),
      field('when', 'after', 'happening'),
      field('then', 'then', 'happening'),
    ],
    fresh: () => ({
      kind: 'soon after',
      seconds: 0.5,
      when: { is: 'pressed', socket: 'K1' },
      then: { is: 'stands' },
    }),
  },
  {
    kind: 'stands until',
    title: 'stands still for the first … s',
    fields: [field('seconds', 'seconds', 's')],
    fresh: () => ({ kind: 'stands until', seconds: 2 }),
  },
  {
    kind: 'travels',
    title: 'travels at least …',
    fields: [field('atLeastMm', 'at least, cm', 'cm')],
    fresh: () => ({ kind: 'travels', atLeastMm: 500 }),
  },
  {
    kind: 'no faster',
    title: 'is never faster than …',
    fields: [field('mmPerS', 'cm a second', 'cm/s')],
    fresh: () => ({ kind: 'no faster', mmPerS: 200 }),
  },
  {
    kind: 'does not roll on',
    title: 'does not roll on when its program is over',
    fields: [field('withinMm', 'at most, mm', 'mm')],
    fresh: () => ({ kind: 'does not roll on', withinMm: 20 }),
  },
  {
    kind: 'pushes out',
    title: 'pushes the other robot out of a place',
    fields: [field('zone', 'which place', 'zone')],
    fresh: ({ zones, opponent }) =>
      opponent ? where(zones?.[0], ({ id }) => ({ kind: 'pushes out', zone: id })) : null,
  },
  {
    kind: 'formula',
    title: 'a formula of your own',
    fields: [field('says', 'the sentence', 'text'), field('formula', 'the formula', 'formula')],
    fresh: () => ({
      kind: 'formula',
      says: 'Never drives faster than 20 cm a second',
      formula: 'always speed < 200',
    }),
  },
];
