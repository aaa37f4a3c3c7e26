/** Something that a team can show that it can do. */
export interface Skill {
  id: string;
  name: string;
  /** What shows it, for teachers. */
  shows: string;
  /** Skills that should come before it. */
  needs: string[];
  /** Of a skill that a teacher added: the lessons that let a team show it. Those that ship with Vigilum are seen in what a lesson asks. */
  lessons?: string[];
}

/** The skills that Vigilum knows how to see, in the order in which most classes come to them. */
export const skills: readonly Skill[] = [
  {
    id: 'reads-first',
    name: 'reads before programming',
    shows: 'every surface of the lesson read at least five times before the first run',
    needs: [],
  },
  {
    id: 'decides',
    name: 'decides with margin',
    shows:
      'a threshold that misreads fewer than five of a thousand looks over either surface, by the team’s own readings',
    needs: ['reads-first'],
  },
  {
    id: 'loops',
    name: 'loops and waits',
    shows: 'a proved script with a loop or a wait for something that is sensed',
    needs: [],
  },
  {
    id: 'stops',
    name: 'stops in time',
    shows: 'a stop behind a line or before a wall, proved and kept on the floor',
    needs: ['decides'],
  },
  {
    id: 'counts',
    name: 'counts with re-arm',
    shows: 'a proved script that counts events and not looks',
    needs: ['loops'],
  },
  {
    id: 'follows',
    name: 'follows an edge',
    shows: 'a proved script that stays on a track',
    needs: ['decides', 'loops'],
  },
  {
    id: 'turns',
    name: 'turns by heading',
    shows: 'a proved script that turns or holds a bearing by its heading sensor',
    needs: ['loops'],
  },
  {
    id: 'compares',
    name: 'chooses by comparing',
    shows: 'a proved script that compares two readings and goes one way or the other',
    needs: ['loops'],
  },
  {
    id: 'orders',
    name: 'orders rules',
    shows: 'a proved script with three or more rules in one loop',
    needs: ['compares'],
  },
  {
    id: 'predicts',
    name: 'predicts what will happen',
    shows: 'a prediction that came true before the run',
    needs: [],
  },
  {
    id: 'tunes',
    name: 'tunes one thing at a time',
    shows: 'a walk of four trials or more that arrived and changed one number in each step',
    needs: ['stops'],
  },
  {
    id: 'explains',
    name: 'explains what happened',
    shows:
      'a sentence of eight words or more in the team’s own words, in the step that asks what was found out',
    needs: [],
  },
];

export const skillOf = (id: string): Skill | undefined => skills.find((skill) => skill.id === id);

/**
 * How far right each skill stands in a picture that reads from left to right: one more than the farthest of those that it needs.
 * Skills that need each other in a circle stand where they are met first.
 */
export function skillColumns(all: readonly Skill[]): Map<string, number> {
  const columns = new Map<string, number>();
  const visit = (id: string, above: ReadonlySet<string>): number => {
    const known = columns.get(id);
    if (known !== undefined) return known;
    const skill = all.find((one) => one.id === id);
    if (!skill || above.has(id)) return -1;
    const inside = new Set([...above, id]);
    const column = 1 + Math.max(-1, ...skill.needs.map((need) => visit(need, inside)));
    columns.set(id, column);
    return column;
  };
  for (const { id } of all) visit(id, new Set());
  return columns;
}
