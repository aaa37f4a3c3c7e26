import { Check, CircleAlert, LoaderCircle } from 'lucide-react';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { reviewContext } from '@vigilum/core/classroom';
import { narrowestLine } from '@vigilum/core/lesson';
import { stoppingDistance, surelySeenSpeed, topSpeedMmPerS } from '@vigilum/core/motion';
import { applyFix, canRun, parseScript, review, shapes } from '@vigilum/core/script';
import { countOf, formatNumber } from '@vigilum/core/quantity';
import { useQueryClient } from '@tanstack/react-query';
import { ApiProblem, post } from '../../data/api.ts';
import { sentenceOf } from '../../data/queries.ts';
import { FindingCard } from '../../ui/Finding.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { useStage, type StageContext } from '../../workspace/context.ts';
import { NextStage } from '../../workspace/NextStage.tsx';
import { ScriptEditor, type EditorHandle } from './ScriptEditor.tsx';

type Saving =
  | { state: 'saved' | 'typing' | 'saving' }
  | { state: 'failed'; says: string }
  | { state: 'conflict'; version: number; text: string };

/** How long typing must rest before a version is saved, ms. */
const REST_MS = 1500;

/** Saves the script a moment after typing stops; every save is a version. */
function useAutosave(api: string, first: { version: number; text: string }) {
  const client = useQueryClient();
  const [saving, setSaving] = useState<Saving>({ state: 'saved' });
  const version = useRef(first.version);
  const savedText = useRef(first.text);
  const text = useRef(first.text);
  const running = useRef<Promise<void> | null>(null);
  const timer = useRef<number>(undefined);

  const save = useCallback(async (): Promise<void> => {
    window.clearTimeout(timer.current);
    if (running.current) await running.current;
    if (text.current === savedText.current) return;
    const sending = text.current;
    setSaving({ state: 'saving' });
    running.current = (async () => {
      try {
        const answer = await post<{ version: number }>(`${api}/script-versions`, {
          text: sending,
          basedOn: version.current,
        });
        version.current = answer.version;
        savedText.current = sending;
        setSaving({ state: text.current === sending ? 'saved' : 'typing' });
        void client.invalidateQueries();
      } catch (error) {
        if (error instanceof ApiProblem && error.status === 409) {
          const newest = error.body.newest as { version: number; text: string };
          setSaving({ state: 'conflict', ...newest });
        } else setSaving({ state: 'failed', says: sentenceOf(error) });
      } finally {
        running.current = null;
      }
    })();
    await running.current;
  }, [api, client]);

  const change = (now: string) => {
    text.current = now;
    if (now === savedText.current) return;
    setSaving((was) => (was.state === 'conflict' ? was : { state: 'typing' }));
    window.clearTimeout(timer.current);
    timer.current = window.setTimeout(() => void save(), REST_MS);
  };
  /** After a conflict: goes on from the other version, with one of the two texts. */
  const settle = (newest: { version: number; text: string }, keep: string) => {
    version.current = newest.version;
    savedText.current = newest.text;
    text.current = keep;
    setSaving({ state: keep === newest.text ? 'saved' : 'typing' });
    void save();
  };
  useEffect(() => {
    const leave = () => void save();
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      leave();
    };
  }, [save]);
  return { saving, change, save, settle };
}

function SavedMark({ saving }: { saving: Saving }) {
  if (saving.state === 'saved') {
    return (
      <span className="flex items-center gap-1.5 text-done">
        <Check size={18} aria-hidden="true" /> saved
      </span>
    );
  }
  if (saving.state === 'failed' || saving.state === 'conflict') {
    return (
      <span className="flex items-center gap-1.5 font-bold text-fault">
        <CircleAlert size={18} aria-hidden="true" /> not saved
      </span>
    );
  }
  return (
    <span className="flex items-center gap-1.5 text-ink-2">
      <LoaderCircle size={18} aria-hidden="true" className="animate-spin" /> saving …
    </span>
  );
}

/** Numbers a writer needs, computed from this robot and its readings. */
function RobotFacts({ context }: { context: StageContext }) {
  const { record, pair, fitted } = context;
  const { kit, build, lesson } = record;
  const top = topSpeedMmPerS(kit.drive.topDegPerS, build.wheelDiameterMm);
  const width = narrowestLine(lesson);
  const periodS = (fitted?.spec.samplePeriodMs ?? 0) / 1000;
  const reaction = {
    samplePeriodS: periodS,
    stepTimeS: kit.stepTimeMs / 1000,
    commandDelayS: kit.drive.commandDelayMs / 1000,
    tauBrakeS: kit.drive.tauBrakeS,
  };
  const stop = (percent: number) => formatNumber(stoppingDistance((top * percent) / 100, reaction).meanMm, 0);
  const rows: [string, string][] = [
    ...(pair
      ? ([
          [
            `${pair.low.name} · ${pair.high.name}`,
            `${formatNumber(pair.low.mean, 0)} · ${formatNumber(pair.high.mean, 0)} %`,
          ],
        ] as [string, string][])
      : []),
    ['threshold', record.threshold ? `${formatNumber(record.threshold.value)} %` : 'not decided'],
    ['drive 100 % is', `${formatNumber(top, 0)} mm/s`],
    ...(width !== null && periodS > 0
      ? ([
          [
            `a ${formatNumber(width, 0)} mm line is surely seen up to`,
            `drive ${Math.min(100, Math.floor((100 * surelySeenSpeed(width, periodS)) / top))} %`,
          ],
        ] as [string, string][])
      : []),
    ...(periodS > 0
      ? ([['from seeing to standing, at 30 · 60 %', `${stop(30)} · ${stop(60)} mm`]] as [string, string][])
      : []),
  ];
  return (
    <section className="mt-4 border-t border-line-soft pt-3">
      <h3 className="font-bold">This robot</h3>
      <dl className="mt-1 grid grid-cols-[minmax(0,1fr)_auto] gap-x-3 gap-y-1">
        {rows.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-ink-2">{name}</dt>
            <dd className="text-right font-semibold">{value}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

/** Stage 4: the behaviour, one step a line, reviewed while it is written. */
export default function ScriptStage() {
  const context = useStage();
  const { record, api } = context;
  const first = useRef({
    version: record.script?.version ?? 0,
    text: record.script?.text ?? record.lesson.startScript,
  });
  const [text, setText] = useState(first.current.text);
  const editor = useRef<EditorHandle>(null);
  // A new script starts from the lesson's first lines: they count as typed, not as saved.
  const { saving, change, save, settle } = useAutosave(
    api,
    record.script ? first.current : { version: 0, text: '' },
  );
  const reviewing = useMemo(() => reviewContext(record), [record]);
  const program = useMemo(() => parseScript(text), [text]);
  const findings = useMemo(() => review(program, reviewing), [program, reviewing]);
  const sockets = record.kit.sockets.filter((s) => s.takes === 'sensor').map((s) => s.name);
  const names = () =>
    [...program.sensors, ...program.values].map((n) => n.name).concat(['threshold', ...sockets]);
  const faults = findings.filter((f) => f.grade === 'fault').length;
  const tone = { fault: 'fault', risk: 'risk', note: 'now' } as const;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_27rem] lg:grid-rows-[minmax(0,1fr)]">
      <Panel
        title="Steps"
        aside={
          <span className="flex flex-wrap items-center gap-4">
            <span>{countOf(program.stepCount, 'step')}, one a line</span>
            <SavedMark saving={saving} />
          </span>
        }
      >
        <div className="min-h-0 flex-1">
          <ScriptEditor
            initial={first.current.text}
            handle={editor}
            relint={reviewing}
            hooks={{
              onText: (now) => {
                setText(now);
                change(now);
              },
              onSave: () => void save(),
              findings: (now) => review(parseScript(now), reviewing),
              names,
            }}
          />
        </div>
        <details className="mt-3" open>
          <summary className="min-h-11 cursor-pointer py-2.5 font-bold">Words you can use</summary>
          <ul className="mt-1 gap-x-6 font-mono text-sm leading-6 sm:columns-2 [&>li]:break-inside-avoid">
            {Object.values(shapes)
              .flat()
              .map((shape) => (
                <li key={shape}>{shape}</li>
              ))}
          </ul>
        </details>
      </Panel>
      <Panel
        title="Review"
        aside={findings.length === 0 ? 'nothing to mend' : `${countOf(findings.length, 'thing')} to look at`}
        footer={
          canRun(program) ? (
            <NextStage to="try">{faults > 0 ? 'Try it anyway' : 'On to Try'}</NextStage>
          ) : (
            <span className="text-ink-2">Mend the faults to try it.</span>
          )
        }
      >
        {saving.state === 'conflict' ? (
          <FindingCard
            tone="fault"
            says="Somebody else saved this script meanwhile."
            more="Yours is in the editor. Choose which one to keep; the other stays among the versions."
          >
            <span className="flex flex-wrap gap-2">
              <button type="button" className="btn btn-primary" onClick={() => settle(saving, text)}>
                Keep mine
              </button>
              <button
                type="button"
                className="btn btn-plain"
                onClick={() => {
                  const { text: theirs } = saving;
                  settle(saving, theirs);
                  editor.current?.replaceAll(theirs);
                }}
              >
                Take theirs
              </button>
            </span>
          </FindingCard>
        ) : null}
        {saving.state === 'failed' ? (
          <FindingCard tone="fault" says="This is not saved yet." more={saving.says}>
            <button type="button" className="btn btn-plain" onClick={() => void save()}>
              Save now
            </button>
          </FindingCard>
        ) : null}
        <div className="flex flex-col gap-4">
          {findings.length === 0 ? (
            <FindingCard
              tone="done"
              says="Nothing speaks against running it."
              more="The review knows this robot’s wiring, its readings, its threshold and the course."
            />
          ) : (
            findings.map((finding) => (
              <FindingCard
                key={`${finding.rule}:${finding.line}:${finding.column}`}
                tone={tone[finding.grade]}
                where={`line ${finding.line}`}
                says={finding.says}
                more={[finding.why, finding.fix ? '' : finding.mend].filter(Boolean).join(' ')}
              >
                {finding.fix ? (
                  <button
                    type="button"
                    className="btn btn-primary"
                    onClick={() => editor.current?.edit(applyFix(text, finding.fix!))}
                  >
                    {finding.fix.label}
                  </button>
                ) : (
                  <button
                    type="button"
                    className="min-h-11 font-semibold text-sea underline"
                    onClick={() => editor.current?.goTo(finding.line)}
                  >
                    Go to line {finding.line}
                  </button>
                )}
              </FindingCard>
            ))
          )}
        </div>
        <div className="mt-auto">
          <RobotFacts context={context} />
        </div>
      </Panel>
    </div>
  );
}
