import { hourSpent, hourState } from '@vigilum/core/classroom';
import { standingIn } from '@vigilum/core/hour';
import type { PublicBoard } from '@vigilum/contract/types';
import { useBoard } from '../data/queries.ts';
import { TimeLeft } from '../hours/TimeLeft.tsx';
import { Empty, Failed, Loading } from '../ui/states.tsx';
import { clock as minutesAndSeconds, useNow } from '../ui/time.ts';
import { StepDots } from './StepDots.tsx';
import { timeOf } from './useLive.ts';

function Shown({ board, receivedAt }: { board: PublicBoard; receivedAt: number }) {
  const skew = board.now - receivedAt;
  const now = useNow() + skew;
  const { hour, run, steps, teams, turns, queue } = board;
  if (!hour || !run)
    return (
      <main className="flex flex-1 flex-col gap-4 p-8">
        <h1 className="text-title font-bold">
          {board.class}, {board.school}
        </h1>
        <Empty title="No lesson is going on.">
          <p>This board fills by itself when the hour begins.</p>
        </Empty>
      </main>
    );
  const nowMin = hourSpent(hour, now);
  const name = (id: number) => teams.find((team) => team.id === id)?.name ?? '';
  const on = turns.filter(({ endedMin }) => endedMin === null);
  return (
    <main className="flex flex-1 flex-col gap-4 p-6">
      <header className="flex flex-wrap items-center gap-4">
        <h1 className="mr-auto text-3xl font-bold">
          {hour.class.name} · {hour.lesson.title}
        </h1>
        <span className="text-2xl">
          <TimeLeft hour={hour} skew={skew} />
        </span>
      </header>
      {run.stopped !== null ? (
        <p role="alert" className="bg-fault-soft p-6 text-center text-4xl font-bold text-fault">
          {run.stopped}
        </p>
      ) : null}
      {run.told !== null ? (
        <p role="status" className="bg-sea-soft p-4 text-2xl font-bold text-sea">
          {run.told.says}
        </p>
      ) : null}
      {hourState(hour, now) === 'over' ? (
        <p className="bg-brass-soft p-4 text-2xl font-bold text-brass">Time is up.</p>
      ) : null}
      <div className="flex flex-1 gap-6 max-lg:flex-col">
        <div className="relative min-w-0 flex-1 overflow-x-auto">
          <table className="w-full border-separate border-spacing-0 text-xl">
            <caption className="sr-only">Where each team is</caption>
            <thead className="sr-only">
              <tr>
                <th scope="col">team</th>
                <th scope="col">steps</th>
                <th scope="col">is at</th>
              </tr>
            </thead>
            <tbody>
              {teams.map((team) => {
                const { at } = standingIn(steps, team.strip, []);
                return (
                  <tr key={team.id} className="h-16 [&>*]:border-t [&>*]:border-line">
                    <th scope="row" className="pr-4 text-left text-2xl font-bold">
                      {team.name}
                    </th>
                    <td className="pr-4">
                      <StepDots steps={steps} strip={team.strip} at={at} large />
                    </td>
                    <td className="text-2xl">{steps[at]?.word ?? '✓ through'}</td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
        {run.mats === 0 ? null : (
          <section className="panel w-full p-5 lg:w-96" aria-label="Mats">
            <h2 className="mb-2 text-2xl font-bold">Mats</h2>
            <ul className="flex flex-col gap-2 text-xl">
              {Array.from({ length: run.mats }, (_, i) => i + 1).map((mat) => {
                const turn = on.find((one) => one.mat === mat);
                const left = turn ? run.turnMin - (nowMin - turn.beganMin) : 0;
                return (
                  <li key={mat} className="flex items-baseline gap-3">
                    <span className="text-ink-2">mat {mat}</span>
                    <strong className="text-2xl">{turn ? name(turn.team) : 'free'}</strong>
                    {turn ? (
                      <span className={`ml-auto font-mono ${left < 0 ? 'font-bold text-fault' : ''}`}>
                        {left < 0 ? 'time is up' : minutesAndSeconds(left * 60_000)}
                      </span>
                    ) : null}
                  </li>
                );
              })}
            </ul>
            <h2 className="mt-5 mb-2 text-2xl font-bold">Next</h2>
            {queue.length === 0 ? (
              <p className="text-ink-2">Nobody waits.</p>
            ) : (
              <ol className="flex flex-col gap-1.5 text-xl">
                {queue.map(({ team, fromMin }, i) => (
                  <li key={team} className="flex items-baseline gap-3">
                    <span className="w-6 font-mono text-ink-2">{i + 1}</span>
                    <strong>{name(team)}</strong>
                    <span className="ml-auto font-mono text-ink-2">
                      about {timeOf(now + 60_000 * (fromMin - nowMin))}
                    </span>
                  </li>
                ))}
              </ol>
            )}
          </section>
        )}
      </div>
    </main>
  );
}

/** What a projector shows: where each team is, the mats, sentences to all. Nothing that is wrong with anybody. */
export default function BoardPage() {
  const query = useBoard();
  if (query.isPending) return <Loading what="the board" />;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  return <Shown board={query.data} receivedAt={query.dataUpdatedAt} />;
}
