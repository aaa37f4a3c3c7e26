import type { Shown, Skill } from '../year/index.ts';
import { writeCsv } from './csv.ts';
import { escaped } from './escaped.ts';

/** A team with where it stands in each skill, by the skill’s id. */
export interface TeamStanding {
  name: string;
  by: ReadonlyMap<string, Shown>;
}

/** What the teams of a class have shown, a row for each team and skill. `dayOf` writes a moment, ms, as a day. */
export function skillsCsv(
  teams: readonly TeamStanding[],
  skills: readonly Skill[],
  dayOf: (atMs: number) => string,
): string {
  const head = [
    'team',
    'skill',
    'standing',
    'last shown',
    'long ago',
    'pieces of evidence',
    'computed',
    'teacher’s reason',
    'said by',
  ];
  const rows = teams.flatMap(({ name, by }) =>
    skills.flatMap(({ id, name: skill }) => {
      const shown = by.get(id);
      if (!shown) return [];
      const { standing, lastAt, longAgo, rests, computed, overruled } = shown;
      return [
        [
          name,
          skill,
          standing,
          lastAt === null ? '' : dayOf(lastAt),
          longAgo ? 'yes' : 'no',
          rests.length,
          computed,
          overruled?.reason ?? '',
          overruled?.by ?? '',
        ],
      ];
    }),
  );
  return writeCsv([head, ...rows]);
}

/** The same as Markdown to be read: a table of signs for the class, then team by team what was shown and what it rests on. */
export function skillsMarkdown(
  title: string,
  teams: readonly TeamStanding[],
  skills: readonly Skill[],
  dayOf: (atMs: number) => string,
): string {
  const cell = (shown: Shown | undefined) =>
    shown ? `${shown.standing}${shown.longAgo ? ' (long ago)' : ''}` : '';
  const table = [
    `| skill | ${teams.map(({ name }) => escaped(name)).join(' | ')} |`,
    `| --- | ${teams.map(() => '---').join(' | ')} |`,
    ...skills.map(({ id, name }) => `| ${name} | ${teams.map(({ by }) => cell(by.get(id))).join(' | ')} |`),
  ];
  const sections = teams.flatMap(({ name, by }) => [
    `## ${escaped(name)}`,
    '',
    ...skills.flatMap(({ id, name: skill }) => {
      const shown = by.get(id);
      if (!shown || (shown.standing === 'cannot tell' && !shown.overruled)) return [];
      return [
        `- **${skill}**: ${cell(shown)}`,
        ...(shown.overruled
          ? [
              `  - ${escaped(shown.overruled.by)} says so, ${dayOf(shown.overruled.at)}: ${escaped(shown.overruled.reason)} (computed: ${shown.computed})`,
            ]
          : []),
        ...shown.rests.map(
          ({ says, lesson, at }) =>
            `  - ${escaped(lesson.title)}, ${at > 0 ? dayOf(at) : 'no date'}: ${escaped(says)}`,
        ),
      ];
    }),
    '',
  ]);
  return `${[`# ${escaped(title)}`, '', ...table, '', ...sections].join('\n').trimEnd()}\n`;
}
