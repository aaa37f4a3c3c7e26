import { useQuery } from '@tanstack/react-query';
import { Printer } from 'lucide-react';
import { useMemo } from 'react';
import { useParams } from 'react-router';
import { knownRobotOf, pairOfRecord, wantedIn, watched, withRecord } from '@vigilum/core/classroom';
import { goalsOf, stepsOf } from '@vigilum/core/lesson';
import { countOf, formatNumber } from '@vigilum/core/quantity';
import { sensorWords } from '@vigilum/core/sensing';
import { canRun, parseScript } from '@vigilum/core/script';
import { knobsMoved, resultsTold, walkOf } from '@vigilum/core/tuning';
import { cameTrue, skillOf } from '@vigilum/core/year';
import type { LogbookPiece } from '@vigilum/contract/types';
import { Button } from '../ui/Button.tsx';
import { Readings, sensorsRead, Trials, unitOn, Written } from '../class/workParts.tsx';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { whenOf } from '../hours/when.ts';
import { MatOfRun } from '../run/RunView.tsx';
import { DecideChart } from '../stages/decide/DecideChart.tsx';
import { useLatestRun } from '../tuning/useLatestRun.ts';
import { WalkChart } from '../tuning/WalkChart.tsx';
import { BackLink } from '../ui/BackLink.tsx';
import { Empty, Failed, Loading } from '../ui/states.tsx';
import { ForgetTeam } from './ForgetTeam.tsx';
import { MembersRow } from './MembersRow.tsx';
import { standingSigns } from './standingWords.ts';

type Told = ReturnType<typeof withRecord<LogbookPiece['evidence']>>;

/** The way that the script as it was left drives, from its first start. */
function Way({ told }: { told: Told }) {
  const { record } = told;
  const { lesson, script } = record;
  const job = useMemo(
    () =>
      script && canRun(parseScript(script.text))
        ? { lesson, known: knownRobotOf(record), text: script.text }
        : null,
    [lesson, record, script],
  );
  const { rehearsal, fault } = useLatestRun(job, lesson.course.starts[0]!.name, 1);
  if (!job) return null;
  if (fault) return <p className="text-ink-2">{fault}</p>;
  if (!rehearsal) return <p className="text-ink-2">It runs …</p>;
  const last = rehearsal.evidence.timesS.length - 1;
  return (
    <figure className="min-w-0">
      <MatOfRun
        className="h-56 w-full"
        lesson={lesson}
        build={told.build}
        rehearsal={rehearsal}
        sample={last}
        atS={rehearsal.evidence.timesS[last] ?? 0}
        over
        label={`The way that this script drives in ${lesson.title}.`}
      />
      <figcaption className="text-ink-2">the way that this script drives, simulated</figcaption>
    </figure>
  );
}

/** The two surfaces of the lesson with the threshold between them. */
function Between({ told }: { told: Told }) {
  const { record } = told;
  const pair = pairOfRecord(record);
  const spec = watched(record);
  const { threshold } = record;
  if (!pair || !spec || !threshold || threshold.compare === 'change') return null;
  return (
    <figure className="flex h-64 min-w-0 flex-col">
      <DecideChart
        pair={pair}
        wanted={wantedIn(record, pair)}
        levels={[threshold.value, ...(threshold.leave === null ? [] : [threshold.leave])]}
        range={spec}
        label={`${formatNumber(threshold.value)} ${pair.unit}`}
        others={[]}
        what={sensorWords[spec.kind]}
      />
    </figure>
  );
}

/** One piece of work as a story: what was read, decided, written, proved, driven and found out. */
function Piece({
  piece,
  nth,
  nameOf,
}: {
  piece: LogbookPiece;
  nth: number;
  /** The name of a skill. */
  nameOf: (skill: string) => string;
}) {
  const told = useMemo(() => withRecord(piece.evidence), [piece.evidence]);
  const { lesson, hour, robot, script, proof, trials, notes } = told;
  const goals = useMemo(() => goalsOf(lesson), [lesson]);
  const walk = useMemo(
    () =>
      walkOf(
        piece.walk.filter(({ source }) => source !== 'proof'),
        goals,
      ),
    [piece.walk, goals],
  );
  const knob = knobsMoved(walk).find(({ moves }) => moves > 0);
  const results = resultsTold(walk);
  const result = goals.map(({ key }) => key).find((key) => results.includes(key)) ?? results[0];
  const written = stepsOf(lesson).filter(({ id }) => notes[id]?.text);
  const read = sensorsRead(told);
  const right = piece.predictions.filter(cameTrue);
  const shown = piece.shown.filter(({ weight }) => weight !== 'tried');
  return (
    <article aria-label={lesson.title} className="panel break-inside-avoid-page p-4">
      <header className="mb-2 flex flex-wrap items-baseline gap-x-3">
        <h2 className="text-xl font-bold">
          {nth}. {lesson.title}
        </h2>
        <span className="text-ink-2">
          {hour ? whenOf(hour.at) : 'outside of an hour'} · robot {robot.name}
        </span>
      </header>
      <p className="mb-3">{lesson.aim}</p>
      <div className="gap-x-6 lg:columns-2 [&>*]:mb-4 [&>*]:break-inside-avoid">
        {read.length > 0 ? (
          <section className="min-w-0">
            <h3 className="font-bold">Read and decided</h3>
            <div className="mt-1 flex flex-col gap-3">
              {read.map(([socket, sensor]) => (
                <Readings key={socket} socket={socket} sensor={sensor} unit={unitOn(told, socket)} />
              ))}
            </div>
          </section>
        ) : null}
        <Between told={told} />
        {script ? (
          <section className="min-w-0">
            <h3 className="font-bold">
              The script, version {script.version}
              {proof ? (
                <span className="font-normal text-ink-2">
                  {' '}
                  · {proof.proof.verdict}: {proof.proof.passes} of {proof.proof.runs} runs
                </span>
              ) : null}
            </h3>
            <pre
              tabIndex={0}
              aria-label={`The script of ${lesson.title}`}
              className="mt-1 overflow-x-auto rounded-lg border border-line bg-paper p-3 font-mono leading-7"
            >
              {script.text}
            </pre>
          </section>
        ) : null}
        {script ? <Way told={told} /> : null}
        {trials.length > 0 ? (
          <section className="min-w-0">
            <h3 className="font-bold">On the floor, {countOf(trials.length, 'trial')}</h3>
            <Trials trials={trials} lesson={lesson} />
          </section>
        ) : null}
        {knob && result ? (
          <section className="min-w-0">
            <h3 className="font-bold">The walk</h3>
            <WalkChart walk={walk} goals={goals} knob={knob} result={result} className="h-56" />
          </section>
        ) : null}
        {written.length > 0 ? (
          <section className="min-w-0">
            <h3 className="font-bold">In their own words</h3>
            <Written steps={written} notes={notes} />
          </section>
        ) : null}
        {shown.length > 0 || piece.predictions.length > 0 ? (
          <section className="min-w-0">
            <h3 className="font-bold">What it shows</h3>
            <ul>
              {shown.map(({ skill, says, weight }, i) => {
                const { sign, ink } =
                  standingSigns[
                    weight === 'unkind'
                      ? 'shown in unkind conditions'
                      : weight === 'firm'
                        ? 'shown'
                        : 'seen once'
                  ];
                return (
                  <li key={i} className="py-0.5">
                    <span className={`font-bold ${ink}`}>{sign}</span> <strong>{nameOf(skill)}</strong>:{' '}
                    {says}
                  </li>
                );
              })}
            </ul>
            {piece.predictions.length > 0 ? (
              <p className="text-ink-2">
                {right.length} of {countOf(piece.predictions.length, 'prediction')} came true
              </p>
            ) : null}
          </section>
        ) : null}
      </div>
    </article>
  );
}

/** Everything that a team did, in order, to be read, printed and put into its folder. */
export default function LogbookPage() {
  const { team = '' } = useParams();
  const query = useQuery({
    queryKey: keys.logbook(team),
    queryFn: () => api('GET /teams/:id/logbook', { id: team }),
    staleTime: 0,
  });
  if (query.isPending) return <Loading what="the logbook" />;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { team: own, class: klass, pieces, members, own: added } = query.data;
  const nameOf = (skill: string) =>
    skillOf(skill)?.name ?? added.find(({ id }) => id === skill)?.name ?? skill;
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <span className="print:hidden">
          <BackLink to={`/classes/${klass.id}/skills`} title="Back to what the class has shown" />
        </span>
        <h1 className="text-title font-bold">Logbook of {own.name}</h1>
        <span className="mr-auto text-ink-2">
          {klass.name}, {countOf(pieces.length, 'piece')} of work
        </span>
        <Button icon={Printer} className="print:hidden" onClick={() => window.print()}>
          Print
        </Button>
      </header>
      <MembersRow team={own.id} klass={klass.id} members={members} />
      {pieces.length === 0 ? (
        <Empty title="This team has done nothing yet.">
          <p>Its first lesson begins the logbook.</p>
        </Empty>
      ) : (
        pieces.map((piece, i) => (
          <Piece
            key={`${piece.evidence.lesson.slug} ${piece.evidence.hour?.id}`}
            piece={piece}
            nth={i + 1}
            nameOf={nameOf}
          />
        ))
      )}
      <ForgetTeam team={own} klass={klass.id} />
    </main>
  );
}
