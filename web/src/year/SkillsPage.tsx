import { useQuery } from '@tanstack/react-query';
import { Download } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { skillsCsv, skillsMarkdown } from '@vigilum/core/formats';
import { countOf } from '@vigilum/core/quantity';
import {
  ofClass,
  shownBy,
  skills as shippedSkills,
  standings,
  type Shown,
  type Skill,
} from '@vigilum/core/year';
import type { ClassShown } from '@vigilum/contract/types';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { BackLink } from '../ui/BackLink.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Panel } from '../ui/Panel.tsx';
import { saveFile } from '../ui/saveFile.ts';
import { isoDay } from '../ui/time.ts';
import { slugFor } from '../ui/slugFor.ts';
import { Failed, Loading } from '../ui/states.tsx';
import { SkillDetail } from './SkillDetail.tsx';
import { SkillMap } from './SkillMap.tsx';
import { standingSigns } from './standingWords.ts';

export interface TeamSkills {
  id: number;
  name: string;
  by: Map<string, Shown>;
}

/** Every team with where it stands in every skill, as of the server’s clock. */
function teamsOf({ teams, now, own }: ClassShown): TeamSkills[] {
  return teams.map((team) => ({
    id: team.id,
    name: team.name,
    by: new Map([...shippedSkills, ...own].map(({ id: skill }) => [skill, shownBy(team, skill, now)])),
  }));
}

function Legend() {
  return (
    <p className="mt-3 flex flex-wrap gap-x-5 gap-y-1 text-ink-2">
      {standings.map((standing) => {
        const { sign, ink, word } = standingSigns[standing];
        return (
          <span key={standing}>
            <span className={`font-mono font-bold ${ink}`}>{sign}</span> {word}
          </span>
        );
      })}
      <span>◷ long ago</span>
      <span>T the teacher says so</span>
    </p>
  );
}

/** Teams × skills: one press opens what a sign rests on. */
function Grid({
  skills,
  teams,
  picked,
  pick,
}: {
  skills: readonly Skill[];
  teams: readonly TeamSkills[];
  picked: { team: number; skill: string } | null;
  pick: (picked: { team: number; skill: string }) => void;
}) {
  return (
    <div className="relative overflow-x-auto">
      <table className="w-full">
        <thead className="text-ink-2">
          <tr>
            <th scope="col" className="text-left font-semibold">
              skill
            </th>
            {teams.map(({ id, name }) => (
              <th key={id} scope="col" className="px-1 text-center font-semibold">
                <Link
                  className="inline-flex min-h-11 items-center text-sea underline"
                  title={`The logbook of ${name}`}
                  to={`/teams/${id}/logbook`}
                >
                  {name}
                </Link>
              </th>
            ))}
            <th scope="col" className="pl-3 text-right font-semibold whitespace-nowrap">
              of {teams.length}
            </th>
          </tr>
        </thead>
        <tbody>
          {skills.map((skill) => {
            const row = teams.map(({ by }) => by.get(skill.id)!.standing);
            const { have } = ofClass(skill.id, row);
            return (
              <tr key={skill.id} className="border-t border-line-soft">
                <th scope="row" className="pr-3 text-left font-semibold">
                  {skill.name}
                </th>
                {teams.map((team) => {
                  const shown = team.by.get(skill.id)!;
                  const { sign, ink, word } = standingSigns[shown.standing];
                  const here = picked?.team === team.id && picked.skill === skill.id;
                  const says = `${team.name}, ${skill.name}: ${word}${shown.longAgo ? ', long ago' : ''}${shown.overruled ? ', as the teacher says' : ''}`;
                  return (
                    <td key={team.id} className="px-0.5 text-center">
                      <button
                        type="button"
                        title={says}
                        aria-label={says}
                        aria-pressed={here}
                        className={`min-h-11 w-full min-w-11 rounded-lg border text-xl font-bold ${here ? 'border-sea bg-sea-soft' : 'border-transparent hover:border-edge'} ${ink}`}
                        onClick={() => pick({ team: team.id, skill: skill.id })}
                      >
                        {sign}
                        {shown.longAgo ? ' ◷' : ''}
                        {shown.overruled ? ' T' : ''}
                      </button>
                    </td>
                  );
                })}
                <td className="pl-3 text-right font-mono">{have}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

/** What a class should hear next: the skill that most have tried and fewest have shown. */
function Next({ skills, teams }: { skills: readonly Skill[]; teams: readonly TeamSkills[] }) {
  const open = skills
    .map((skill) => ({
      of: skill,
      ...ofClass(
        skill.id,
        teams.map(({ by }) => by.get(skill.id)!.standing),
      ),
    }))
    .filter(({ tried, have }) => tried >= 2 && tried - have >= 2)
    .sort((a, b) => b.tried - b.have - (a.tried - a.have));
  const [first] = open;
  if (!first) return null;
  return (
    <p className="mb-2 border-l-4 border-l-sea pl-3">
      <strong>
        {first.tried - first.have} of {first.tried} that tried have not shown “{first.of.name}”.
      </strong>{' '}
      <span className="text-ink-2">Five minutes on it with all: {first.of.shows}.</span>
    </p>
  );
}

const views = ['teams', 'map'] as const;

/** What each team of a class has shown, skill by skill, computed from the evidence of all its hours. */
export default function SkillsPage() {
  const { id = '' } = useParams();
  const query = useQuery({
    queryKey: keys.classSkills(id),
    queryFn: () => api('GET /classes/:id/skills', { id }),
    staleTime: 0,
  });
  const [picked, setPicked] = useState<{ team: number; skill: string } | null>(null);
  const [view, setView] = useState<(typeof views)[number]>('teams');
  const teams = useMemo(() => (query.data ? teamsOf(query.data) : []), [query.data]);
  if (query.isPending) return <Loading what="what they have shown" />;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { class: klass, works, own } = query.data;
  const skills = [...shippedSkills, ...own];
  const team = teams.find((one) => one.id === picked?.team);
  const skill: Skill | undefined = skills.find((one) => one.id === picked?.skill);
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3 lg:h-dvh lg:min-h-[40rem] lg:flex-none">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <BackLink to={`/classes/${klass.id}`} title="Back to the class" />
        <h1 className="text-title font-bold">{klass.name}: what they have shown</h1>
        <span className="text-ink-2">from {countOf(works, 'piece')} of work</span>
        <span className="ml-auto flex flex-wrap gap-2">
          <Button
            icon={Download}
            onClick={() =>
              saveFile(
                `${slugFor(klass.name, 'class')}-skills.csv`,
                'text/csv',
                skillsCsv(teams, skills, isoDay),
              )
            }
          >
            CSV
          </Button>
          <Button
            icon={Download}
            onClick={() =>
              saveFile(
                `${slugFor(klass.name, 'class')}-skills.md`,
                'text/markdown',
                skillsMarkdown(`${klass.name}: what they have shown`, teams, skills, isoDay),
              )
            }
          >
            Text
          </Button>
          <Choice
            label="How it is shown"
            options={views}
            words={{ teams: 'Team by team', map: 'Skills in order' }}
            value={view}
            choose={setView}
          />
        </span>
      </header>
      {view === 'map' ? (
        <Panel className="flex-1" title="Skills, left to right: what should come before what">
          <SkillMap
            skills={skills}
            told={({ id: one }) => {
              const { have } = ofClass(
                one,
                teams.map(({ by }) => by.get(one)!.standing),
              );
              return {
                says: `${have} of ${countOf(teams.length, 'team')}`,
                share: teams.length === 0 ? 0 : have / teams.length,
              };
            }}
          />
        </Panel>
      ) : (
        <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_22rem] lg:grid-rows-[minmax(0,1fr)]">
          <Panel>
            {teams.length === 0 ? (
              <p className="text-ink-2">This class has no team yet.</p>
            ) : (
              <>
                <Next skills={skills} teams={teams} />
                <Grid skills={skills} teams={teams} picked={picked} pick={setPicked} />
                <Legend />
              </>
            )}
          </Panel>
          <Panel title={team && skill ? `${team.name}: ${skill.name}` : 'What it rests on'}>
            {team && skill ? (
              <SkillDetail
                key={`${team.id} ${skill.id}`}
                klass={klass.id}
                team={team.id}
                skill={skill}
                shown={team.by.get(skill.id)!}
              />
            ) : (
              <p className="text-ink-2">
                Press a sign. It opens what a team did, when, and in which lesson; and there you may say
                otherwise, with your reason.
              </p>
            )}
          </Panel>
        </div>
      )}
    </main>
  );
}
