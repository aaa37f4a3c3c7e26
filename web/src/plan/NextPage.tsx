import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { skills as shippedSkills, type Next, type PlanLesson, type TeamNext } from '@vigilum/core/year';
import { countOf } from '@vigilum/core/quantity';
import { LinkButton } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { usePeriod } from '../data/queries.ts';
import { BackLink } from '../ui/BackLink.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { whenOf } from '../hours/when.ts';

const groups: readonly { go: TeamNext['go']; title: string; sign: string; ink: string }[] = [
  { go: 'on', title: 'Go on', sign: '✓', ink: 'text-done' },
  { go: 'same skill', title: 'Same skill again', sign: '△', ink: 'text-brass' },
  { go: 'finish', title: 'Finish this lesson first', sign: '●', ink: 'text-ink' },
  { go: 'cannot tell', title: 'Cannot tell', sign: '?', ink: 'text-ink-2' },
];

const LessonLink = ({ lesson }: { lesson: PlanLesson }) => (
  <Link className="inline-flex min-h-11 items-center text-sea underline" to={`/lessons/${lesson.slug}`}>
    {lesson.title}
  </Link>
);

/** Teams by what they do next, each with what that rests on one press away. */
function Teams({ next, nameOf }: { next: Next; nameOf: (skill: string) => string }) {
  return (
    <div className="grid grid-cols-1 gap-x-6 gap-y-3 xl:grid-cols-2">
      {groups.map(({ go, title, sign, ink }) => {
        const own = next.teams.filter((one) => one.go === go);
        if (own.length === 0) return null;
        const lacked = [...new Set(own.flatMap(({ lacks }) => lacks))];
        return (
          <section key={go}>
            <h3 className={`font-bold ${ink}`}>
              {sign} {title}: {countOf(own.length, 'team')}
            </h3>
            <ul>
              {own.map(({ team, says }) => (
                <li key={team.id} className="flex items-center gap-x-3 border-t border-line-soft py-0.5">
                  <Link
                    className="inline-flex min-h-11 w-24 shrink-0 items-center font-bold text-sea underline"
                    to={`/teams/${team.id}/logbook`}
                  >
                    {team.name}
                  </Link>
                  <span className="text-ink-2">{says}</span>
                </li>
              ))}
            </ul>
            {go !== 'same skill'
              ? null
              : lacked.map((skill) => {
                  const others = next.again[skill] ?? [];
                  return (
                    <p key={skill} className="border-t border-line-soft py-1">
                      {nameOf(skill)}:{' '}
                      {others.length > 0 ? (
                        <>
                          again in{' '}
                          {others.map((lesson, i) => (
                            <span key={lesson.slug}>
                              {i > 0 ? ', ' : ''}
                              <LessonLink lesson={lesson} />
                            </span>
                          ))}
                        </>
                      ) : (
                        <span className="text-ink-2">
                          no other lesson that they can do gives it: this one again, with other numbers of its
                          twist.
                        </span>
                      )}
                    </p>
                  );
                })}
          </section>
        );
      })}
    </div>
  );
}

/** What to do after an hour: who goes on, who needs the same again, what all should hear, from the evidence of all hours. */
export default function NextPage() {
  const { hour = '' } = useParams();
  const period = usePeriod(hour);
  const query = useQuery({
    queryKey: keys.next(hour),
    queryFn: () => api('GET /periods/:id/next', { id: hour }),
    staleTime: 0,
  });
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  if (period.isError) return <Failed error={period.error} again={() => void period.refetch()} />;
  if (query.isPending || period.isPending) return <Loading what="what to do next" />;
  const next = query.data;
  const { period: of } = period.data;
  const nameOf = (skill: string) => shippedSkills.find(({ id }) => id === skill)?.name ?? skill;
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3 lg:h-dvh lg:min-h-[40rem] lg:flex-none">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <BackLink to={`/hours/${of.id}`} title="Back to the hour" />
        <h1 className="text-title font-bold">What next, after {of.lesson.title}</h1>
        <span className="text-ink-2">
          {of.class.name}, {whenOf(of.startsAt)}
        </span>
        <span className="ml-auto flex gap-2">
          <LinkButton to={`/classes/${of.class.id}/skills`}>What they have shown</LinkButton>
          <LinkButton to="/plan">Plan</LinkButton>
        </span>
      </header>
      <div className="grid min-h-0 flex-1 grid-cols-1 gap-3 lg:grid-cols-[minmax(0,1fr)_22rem] lg:grid-rows-[minmax(0,1fr)]">
        <Panel title="Teams">
          {next.teams.length === 0 ? (
            <p className="text-ink-2">No team was in this hour.</p>
          ) : (
            <Teams next={next} nameOf={nameOf} />
          )}
        </Panel>
        <div className="flex min-h-0 flex-col gap-3">
          <Panel title="With all, first">
            {next.forAll.length === 0 ? (
              <p className="text-ink-2">
                Nothing: no skill of this lesson was tried and missed by two teams of five.
              </p>
            ) : (
              <ul className="flex flex-col gap-2">
                {next.forAll.map(({ skill, says, evidence }) => (
                  <li key={skill} className="border-l-4 border-l-sea pl-3">
                    <p>{says}</p>
                    <details>
                      <summary className="flex min-h-11 cursor-pointer items-center text-ink-2">
                        What that rests on
                      </summary>
                      <ul className="text-ink-2">
                        {evidence.map(({ says: what, at }, i) => (
                          <li key={i}>
                            {whenOf(at)}: {what}
                          </li>
                        ))}
                      </ul>
                    </details>
                  </li>
                ))}
              </ul>
            )}
          </Panel>
          <Panel title="Those that go on">
            {next.onWith ? (
              <p>
                <LessonLink lesson={next.onWith} />
                <span className="text-ink-2">
                  {' '}
                  comes next: what it needs has been seen in most teams, and it gives{' '}
                  {next.onWith.gives.map(nameOf).join(', ')}.
                </span>
              </p>
            ) : (
              <p className="text-ink-2">
                No lesson is left whose skills before it have been seen in most teams.
              </p>
            )}
          </Panel>
        </div>
      </div>
    </main>
  );
}
