import { Play } from 'lucide-react';
import { useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { findingsOf } from '@vigilum/core/classroom';
import { formatNumber } from '@vigilum/core/quantity';
import type { Rehearsal } from '@vigilum/core/lesson';
import { tryCircumstances, watcher } from '@vigilum/core/lesson';
import { canRun, parseScript } from '@vigilum/core/script';
import { footprintRadius } from '@vigilum/core/sim';
import { post } from '../../data/api.ts';
import { sentenceOf, useChange } from '../../data/queries.ts';
import { Judgements } from '../../run/Judgements.tsx';
import { MatDrawing } from '../../run/MatDrawing.tsx';
import { RunView } from '../../run/RunView.tsx';
import { usePlayback } from '../../run/usePlayback.ts';
import { FindingCard } from '../../ui/Finding.tsx';
import { Fact, Panel } from '../../ui/Panel.tsx';
import { Empty } from '../../ui/states.tsx';
import { useKey } from '../../ui/useKey.ts';
import { simulation } from '../../workers/simulation.ts';
import { robotNumbers } from '../../workings/robotNumbers.ts';
import { WorkingLink } from '../../workings/WorkingLink.tsx';
import { useStage, type StageContext } from '../../workspace/context.ts';
import { NextStage } from '../../workspace/NextStage.tsx';

function StepList({ text, current, over }: { text: string; current: number; over: boolean }) {
  const lines = text.replace(/\n+$/, '').split('\n');
  return (
    <ol className="rounded-lg border border-line py-1 font-mono leading-7">
      {lines.map((line, i) => (
        <li
          key={i}
          aria-current={current === i + 1 ? 'step' : undefined}
          className={`flex gap-2.5 px-2 ${current === i + 1 ? 'bg-sea-soft font-bold text-sea' : ''}`}
        >
          <span className="w-5 shrink-0 text-right text-ink-2">{i + 1}</span>
          <span className="min-w-0 break-words whitespace-pre-wrap">{line || ' '}</span>
        </li>
      ))}
      {over ? (
        <li aria-current="step" className="flex gap-2.5 bg-line-soft px-2 font-sans text-ink-2">
          <span className="w-5 shrink-0 text-right">–</span>nothing left to do
        </li>
      ) : null}
    </ol>
  );
}

function Ready({ context, script }: { context: StageContext; script: { version: number; text: string } }) {
  const { record, known, api, tries } = context;
  const { lesson, build, kit } = record;
  const [start, setStart] = useState(lesson.course.starts[0]!.name);
  const [rehearsal, setRehearsal] = useState<Rehearsal | null>(null);
  const [busy, setBusy] = useState(false);
  const used = useRef(0);
  const playback = usePlayback(rehearsal?.evidence ?? null);
  const save = useChange((body: object) => post(`${api}/tries`, body));
  const findings = useMemo(
    () =>
      findingsOf(record)
        .filter((f) => f.grade !== 'note')
        .slice(0, 2),
    [record],
  );

  const run = async () => {
    if (busy) return;
    setBusy(true);
    const seed = Math.max(used.current, ...tries.map((t) => t.seed), 0) + 1;
    used.current = seed;
    try {
      setRehearsal(await simulation().attempt({ lesson, known, text: script.text }, start, seed));
      save.mutate({ scriptVersion: script.version, start, seed });
    } catch (error) {
      toast.error(sentenceOf(error));
    } finally {
      setBusy(false);
    }
  };
  useKey('r', () => void run());

  const { socket } = lesson.need;
  const signals = rehearsal?.evidence.signals;
  const reading = signals?.[socket]?.values[playback.sample];
  const speed = signals?.speed?.values[playback.sample];
  const line = signals?.line?.values[playback.sample] ?? -1;
  const ended = rehearsal !== null && playback.timeS >= playback.endS;
  const display = rehearsal?.run.events.findLast(
    (e) => e.kind === 'display' && e.atS <= playback.timeS,
  )?.text;
  const threshold = record.threshold?.value ?? null;
  const fitting = build.fittings.find((f) => f.socket === socket);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_23.5rem] lg:grid-rows-[minmax(0,1fr)]">
      <Panel>
        {rehearsal ? (
          <RunView
            lesson={lesson}
            build={build}
            rehearsal={rehearsal}
            playback={playback}
            threshold={threshold}
            text={script.text}
          />
        ) : (
          <div className="flex flex-1 flex-col gap-4">
            <MatDrawing
              className="max-h-[25rem] w-full"
              course={lesson.course}
              build={build}
              pose={tryCircumstances(lesson, start, 1).start}
              watch={{ ...watcher(build, lesson), radiusMm: footprintRadius(fitting?.heightMm ?? 12) }}
              label={`The mat of ${lesson.title} with the robot at start ${start}.`}
            />
            <p className="text-lg">
              The robot stands at start {start}. Say first where it will stop, then run it.
            </p>
          </div>
        )}
      </Panel>
      <div className="flex min-h-0 min-w-0 flex-col gap-4">
        <Panel className="shrink-0 py-3">
          <div className="flex flex-wrap items-center gap-2">
            <button type="button" className="btn btn-primary" disabled={busy} onClick={() => void run()}>
              <Play size={18} aria-hidden="true" /> Run from {start} <kbd className="kbd">R</kbd>
            </button>
            <div role="radiogroup" aria-label="Start" className="ml-auto flex gap-1">
              {lesson.course.starts.map((s) => (
                <button
                  key={s.name}
                  type="button"
                  role="radio"
                  aria-checked={start === s.name}
                  className={`size-11 rounded-lg border font-bold ${start === s.name ? 'border-sea bg-sea-soft text-sea' : 'border-edge'}`}
                  onClick={() => setStart(s.name)}
                >
                  {s.name}
                </button>
              ))}
            </div>
          </div>
          {rehearsal ? (
            <div className="mt-3 flex gap-8">
              <Fact label={`${lesson.need.name} now`} value={formatNumber(reading, 0)} unit="%" />
              <Fact label="speed now" value={formatNumber(speed, 0)} unit="mm/s" />
              {display ? <Fact label="display" value={display} /> : null}
            </div>
          ) : null}
        </Panel>
        <Panel
          title="Steps"
          className="flex-1"
          footer={
            <>
              <NextStage to="script">Change the script</NextStage>
              <WorkingLink
                sheet="stopping"
                numbers={robotNumbers({ kit, build }, { socket: lesson.need.socket })}
              >
                Stopping distance
              </WorkingLink>
              {rehearsal?.judgements.every((j) => j.verdict === 'holds') ? (
                <NextStage to="prove">On to Prove</NextStage>
              ) : null}
            </>
          }
        >
          <StepList text={script.text} current={line} over={line === 0 && rehearsal !== null} />
          <div className="mt-3 flex flex-col gap-3">
            {rehearsal && (ended || !playback.playing) ? (
              <>
                <Judgements lesson={lesson} judgements={rehearsal.judgements} />
                {rehearsal.run.ended.how === 'error' ? (
                  <FindingCard
                    tone="fault"
                    where={`line ${rehearsal.run.ended.line}`}
                    says={rehearsal.run.ended.says}
                    more="The run stopped there. Mend the line."
                  />
                ) : null}
                {rehearsal.run.ended.how === 'left the mat' ? (
                  <FindingCard tone="fault" says="It drove off the mat." more="The run was given up there." />
                ) : null}
              </>
            ) : (
              findings.map((f) => (
                <FindingCard
                  key={`${f.rule}${f.line}`}
                  tone={f.grade === 'fault' ? 'fault' : 'risk'}
                  where={`line ${f.line}`}
                  says={f.says}
                  more={f.why}
                />
              ))
            )}
          </div>
        </Panel>
      </div>
    </div>
  );
}

/** Says why nothing can run yet, with the way to mend it. */
export function NotRunnable({ context }: { context: StageContext }) {
  const fault = findingsOf(context.record).find((f) => f.grade === 'fault');
  return (
    <Panel className="flex-1">
      <Empty title={fault ? `Line ${fault.line}: ${fault.says}` : 'There is no script to run yet.'}>
        <p>{fault ? fault.mend : 'Write the first steps, then come back.'}</p>
        <NextStage to="script">Go to Script</NextStage>
      </Empty>
    </Panel>
  );
}

/** Stage 5: predict, run, watch which step is running and what the sensor says. */
export default function TryStage() {
  const context = useStage();
  const { script } = context.record;
  if (!script || !canRun(parseScript(script.text))) return <NotRunnable context={context} />;
  return <Ready context={context} script={script} />;
}
