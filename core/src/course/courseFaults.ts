import type { Course } from './course.ts';

export interface PartFault {
  /** Where, as a path of names and numbers with dots: `tracks.0.mark`. */
  field: string;
  /** What is wrong, to stand after “Nothing was saved:”. */
  says: string;
}

/** Every further thing whose name was taken before it. */
export function doubled<Thing>(
  list: readonly Thing[],
  nameOf: (thing: Thing) => string,
  field: string,
  word: string,
): PartFault[] {
  const seen = new Set<string>();
  return list.flatMap((thing, i) => {
    const name = nameOf(thing);
    if (!seen.has(name)) {
      seen.add(name);
      return [];
    }
    return [{ field: `${field}.${i}`, says: `two ${word} are called “${name}”` }];
  });
}

/** What the parts of a course of the right shape ask of each other: names unlike each other, tracks that follow a line. */
export function courseFaults(course: Course): PartFault[] {
  const id = (thing: { id: string }) => thing.id;
  return [
    ...doubled(course.starts, ({ name }) => name, 'starts', 'starts'),
    ...doubled(course.landmarks, id, 'landmarks', 'landmarks'),
    ...doubled(course.boxes ?? [], id, 'boxes', 'boxes'),
    ...(course.boxes ?? []).flatMap(({ name, light, moves }, i) =>
      light && moves
        ? [
            {
              field: `boxes.${i}.light`,
              says: `“${name}” moves by itself, so it cannot be one that is pushed along`,
            },
          ]
        : [],
    ),
    ...doubled(course.zones ?? [], id, 'zones', 'zones'),
    ...doubled(course.tracks ?? [], id, 'tracks', 'tracks'),
    ...(course.tracks ?? []).flatMap(({ name, mark }, i) =>
      ['stripe', 'path', 'arc'].includes(course.marks[mark]?.kind ?? '')
        ? []
        : [
            {
              field: `tracks.${i}.mark`,
              says: `the track “${name}” must follow a stripe, path or arc of the marks`,
            },
          ],
    ),
  ];
}
