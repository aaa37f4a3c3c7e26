import type { ClassReport, TeamReport } from '../year/index.ts';
import { writeCsv } from './csv.ts';
import { escaped } from './escaped.ts';

const percent = (share: number): string => `${Math.round(100 * share)} %`;

/** A report as rows: a team in a lesson each. `dayOf` writes a moment, ms, as a day. */
export function reportCsv(report: ClassReport, dayOf: (atMs: number) => string): string {
  const head = [
    'class',
    'team',
    'lesson',
    'day',
    'runs passed',
    'runs',
    'verdict',
    'floor trials kept',
    'floor trials judged',
    'predictions right',
    'predictions',
  ];
  return writeCsv([
    head,
    ...report.teams.flatMap(({ name, lessons }) =>
      lessons.map(({ title, at, proof, floor, predictions }) => [
        report.class.name,
        name,
        title,
        at === null ? '' : dayOf(at),
        proof?.passes ?? '',
        proof?.runs ?? '',
        proof?.verdict ?? '',
        floor.kept,
        floor.of,
        predictions.right,
        predictions.of,
      ]),
    ),
  ]);
}

function teamSection(report: ClassReport, team: TeamReport, dayOf: (atMs: number) => string): string[] {
  const names = new Map(report.skills.map(({ id, name }) => [id, name]));
  return [
    `## ${escaped(team.name)}`,
    '',
    ...(team.members.length > 0 ? [`With ${team.members.map(escaped).join(', ')}.`, ''] : []),
    ...team.skills
      .filter(({ standing }) => standing !== 'cannot tell')
      .map(
        ({ skill, standing, lastAt, reason }) =>
          `- **${escaped(names.get(skill) ?? skill)}**: ${standing}${lastAt === null ? '' : `, ${dayOf(lastAt)}`}${reason === null ? '' : ` (the teacher: ${escaped(reason)})`}`,
      ),
    '',
    ...team.lessons.flatMap(({ title, at, proof, floor, predictions, wrote }) => [
      `- ${escaped(title)}${at === null ? '' : `, ${dayOf(at)}`}: ${proof ? `${proof.verdict}, ${proof.passes} of ${proof.runs} runs` : 'not proved'}${floor.of > 0 ? `; kept ${floor.kept} of ${floor.of} times on the floor` : ''}${predictions.of > 0 ? `; ${predictions.right} of ${predictions.of} predictions right` : ''}`,
      ...wrote.map((text) => `  - “${escaped(text.replace(/\s+/g, ' '))}”`),
    ]),
    '',
  ];
}

/** The same to be read, for the class or for one of its teams. */
export function reportMarkdown(
  report: ClassReport,
  dayOf: (atMs: number) => string,
  team: number | null = null,
): string {
  const one = team === null ? undefined : report.teams.find(({ id }) => id === team);
  const head = `# ${escaped(one ? `${one.name}, ${report.class.name}` : report.class.name)}: ${escaped(report.span.name)}`;
  const about = `${escaped(report.class.school)}, ${dayOf(report.span.from)} to ${dayOf(report.span.to)}. Computed from the evidence of lesson hours.`;
  if (one) return `${[head, '', about, '', ...teamSection(report, one, dayOf)].join('\n').trimEnd()}\n`;
  const lessons = report.lessons.map(
    ({ title, at, teams, proved, runs }) =>
      `| ${escaped(title)} | ${at === null ? '' : dayOf(at)} | ${proved} of ${teams} | ${runs ? `${percent(runs.passes / runs.of)} (${percent(runs.low)} to ${percent(runs.high)})` : ''} |`,
  );
  return `${[
    head,
    '',
    about,
    '',
    '| lesson | day | teams that proved it | runs passed (95 % interval) |',
    '| --- | --- | --- | --- |',
    ...lessons,
    '',
    `${report.predictions.right} of ${report.predictions.of} predictions came true.`,
    '',
    ...report.teams.flatMap((each) => teamSection(report, each, dayOf)),
  ]
    .join('\n')
    .trimEnd()}\n`;
}

/** One xAPI statement (IEEE 9274.1.1; xAPI 1.0.3, part two). Teams are agents with accounts of the school; nobody has a name of their own. */
export interface XapiStatement {
  id: string;
  actor: { objectType: 'Agent'; name: string; account: { homePage: string; name: string } };
  verb: { id: string; display: Record<string, string> };
  object: {
    objectType: 'Activity';
    id: string;
    definition: { name: Record<string, string>; type: string };
  };
  result: {
    score?: { scaled: number; raw: number; min: number; max: number };
    success?: boolean;
    completion: boolean;
  };
  context: { platform: string };
  timestamp: string;
}

const VERB = 'http://adlnet.gov/expapi/verbs/';
const LESSON = 'http://adlnet.gov/expapi/activities/lesson';

/**
 * What a report holds as xAPI statements: a team *passed* or *failed* a lesson by its proof, or *attempted* it. `idOf` makes a UUID of a
 * text, the same for the same text, so that statements that are sent twice are one; `isoOf` writes a moment as ISO 8601; `home` is the
 * address of the school.
 */
export function xapiStatements(
  report: ClassReport,
  home: string,
  idOf: (text: string) => string,
  isoOf: (atMs: number) => string,
): XapiStatement[] {
  return report.teams.flatMap((team) =>
    team.lessons.map(({ slug, title, at, proof, floor, predictions }): XapiStatement => {
      const when = at ?? report.madeAt;
      const verb = proof ? (proof.verdict === 'proved' ? 'passed' : 'failed') : 'attempted';
      const said = `${team.id} ${slug} ${when} ${verb} ${proof?.passes ?? ''} ${floor.kept} ${predictions.right}`;
      return {
        id: idOf(said),
        actor: {
          objectType: 'Agent',
          name: team.name,
          account: { homePage: home, name: `team-${team.id}` },
        },
        verb: { id: `${VERB}${verb}`, display: { 'en-US': verb } },
        object: {
          objectType: 'Activity',
          id: `${home.replace(/\/$/, '')}/lessons/${slug}`,
          definition: { name: { 'en-US': title }, type: LESSON },
        },
        result: {
          ...(proof
            ? {
                score: {
                  scaled: proof.runs === 0 ? 0 : proof.passes / proof.runs,
                  raw: proof.passes,
                  min: 0,
                  max: proof.runs,
                },
                success: proof.verdict === 'proved',
              }
            : {}),
          completion: proof !== null,
        },
        context: { platform: 'Vigilum' },
        timestamp: isoOf(when),
      };
    }),
  );
}
