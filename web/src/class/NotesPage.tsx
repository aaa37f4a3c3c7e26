import { Link, useParams } from 'react-router';
import { writeCsv } from '@vigilum/core/formats';
import { countOf } from '@vigilum/core/quantity';
import { LinkButton } from '../ui/Button.tsx';
import { useClassNotes } from '../data/queries.ts';
import type { ClassNotes } from '@vigilum/contract/types';
import { Markdown } from '../ui/Markdown.tsx';
import { Panel } from '../ui/Panel.tsx';
import { saveFile } from '../ui/saveFile.ts';
import { Empty, Failed, Loading } from '../ui/states.tsx';
import { NoTeam, PeriodHead } from './PeriodHead.tsx';

function save({ school, class: name, lesson, steps, teams }: ClassNotes): void {
  const csv = writeCsv([
    ['team', ...steps.map(({ title }) => title)],
    ...teams.map(({ name: team, notes }) => [team, ...steps.map(({ id }) => notes[id] ?? '')]),
  ]);
  saveFile(`${school} ${name} ${lesson.title} notes.csv`.replaceAll(' ', '-'), 'text/csv', csv);
}

/** What the teams of a class wrote down: predictions before, findings after, side by side. */
export default function NotesPage() {
  const { period = '' } = useParams();
  const query = useClassNotes(period);
  if (query.isPending) return <Loading what="what teams wrote" />;
  if (!query.data) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { data } = query;
  const { steps, teams, lesson } = data;
  const wrote = teams.filter(({ notes }) => steps.some(({ id }) => notes[id])).length;
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3">
      <PeriodHead
        title={`${data.class} · written down in ${lesson.title}`}
        aside={`${wrote} of ${countOf(teams.length, 'team')}`}
        save={() => save(data)}
      />
      {teams.length === 0 ? (
        <NoTeam />
      ) : steps.length === 0 ? (
        <Empty title="This lesson asks teams to write nothing.">
          <LinkButton to={`/lessons/${lesson.slug}/build`}>Add a step Predict or Reflect</LinkButton>
        </Empty>
      ) : (
        <Panel className="overflow-x-auto print:border-0 print:p-0">
          <table className="w-full">
            <thead className="text-left text-ink-2">
              <tr className="align-top">
                <th scope="col" className="py-1.5 pr-4 font-semibold">
                  team
                </th>
                {steps.map(({ id, title, text }) => (
                  <th key={id} scope="col" className="min-w-52 py-1.5 pr-4 font-semibold">
                    <span className="text-ink">{title}</span>
                    <Markdown className="font-normal" text={text} />
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {teams.map(({ id: team, name, notes }) => (
                <tr key={team} className="h-14 border-t border-line-soft align-top">
                  <th scope="row" className="py-2 pr-4 text-left text-lg">
                    <Link
                      to={`/teams/${team}/lessons/${lesson.slug}`}
                      className="block min-h-11 font-bold hover:underline"
                    >
                      {name}
                    </Link>
                  </th>
                  {steps.map(({ id }) => (
                    <td key={id} className="py-2 pr-4 break-words whitespace-pre-wrap">
                      {notes[id] || <span className="text-ink-2">–</span>}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </Panel>
      )}
    </main>
  );
}
