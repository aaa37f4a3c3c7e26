import { ArrowLeft, ArrowRight, BookOpen } from 'lucide-react';
import { useQueryClient } from '@tanstack/react-query';
import { lazy, Suspense, useEffect, useState, type ComponentType, type LazyExoticComponent } from 'react';
import { Link } from 'react-router';
import { isWorking, stepFacts, stepsOf, type LessonStep, type WorkingKind } from '@vigilum/core/lesson';
import { api } from '../data/api.ts';
import { putPlace } from '../data/patches.ts';
import { MatDrawing } from '../run/MatDrawing.tsx';
import { EarlierStates } from '../saving/EarlierStates.tsx';
import { noteKind } from '../saving/kinds.ts';
import type { Phase } from '../saving/machine.ts';
import { Trouble } from '../saving/Trouble.tsx';
import { useDoc } from '../saving/useDoc.ts';
import { Dialog } from '../ui/Dialog.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Empty, Loading } from '../ui/states.tsx';
import { useKey } from '../ui/useKey.ts';
import { useStage } from './context.ts';
import { StepText } from './StepText.tsx';

const loads: Record<WorkingKind, () => Promise<{ default: ComponentType }>> = {
  wire: () => import('../stages/wire/WireStage.tsx'),
  read: () => import('../stages/read/ReadStage.tsx'),
  decide: () => import('../stages/decide/DecideStage.tsx'),
  script: () => import('../stages/script/ScriptStage.tsx'),
  try: () => import('../stages/try/TryStage.tsx'),
  prove: () => import('../stages/prove/ProveStage.tsx'),
  floor: () => import('../stages/floor/FloorStage.tsx'),
};
const stages: Record<WorkingKind, LazyExoticComponent<ComponentType>> = {
  wire: lazy(loads.wire),
  read: lazy(loads.read),
  decide: lazy(loads.decide),
  script: lazy(loads.script),
  try: lazy(loads.try),
  prove: lazy(loads.prove),
  floor: lazy(loads.floor),
};
/** The code of all stages, and of what they load when it is asked for. */
export const stageLoads: (() => Promise<unknown>)[] = [
  ...Object.values(loads),
  () => import('../ui/Chart.tsx'),
  () => import('../phrasebook/PasteProgram.tsx'),
  () => import('../stages/script/FlowView.tsx'),
];

/** What a working step asks for, one press away. */
export function WhatToDo({ step }: { step: LessonStep }) {
  const [open, setOpen] = useState(false);
  useKey('w', () => setOpen(true));
  if (!step.text && !step.expects && step.hints.length === 0) return null;
  return (
    <>
      <button
        type="button"
        className="btn btn-plain"
        title="What this step asks for (W)"
        onClick={() => setOpen(true)}
      >
        <BookOpen size={18} aria-hidden="true" /> What to do
      </button>
      {open ? (
        <Dialog
          title={step.title || stepFacts[step.kind].word}
          width="w-[44rem]"
          close={() => setOpen(false)}
        >
          <StepText step={step} headed={false} />
        </Dialog>
      ) : null}
    </>
  );
}

const asked: Partial<Record<LessonStep['kind'], string>> = {
  predict: 'we say, before the first run',
  reflect: 'in our own words',
  extend: 'what came of it',
  homework: 'our answer',
};

const noteWords: Record<Phase, string> = {
  idle: 'saved',
  typing: 'saving …',
  saving: 'saving …',
  offline: 'kept on this tablet; it is sent when the server answers',
  failed: 'not saved',
  conflict: 'not saved: somebody else wrote here',
};

/** What a team writes down in a step; it is saved a moment after the last word. Two who write in it are put together. */
function Notes({ step }: { step: LessonStep }) {
  const { path, notes } = useStage();
  const kept = notes[step.id];
  const doc = useDoc(
    noteKind,
    { team: path.id, lesson: path.slug, step: step.id },
    { revision: kept?.revision ?? 0, value: kept?.text ?? '' },
  );
  const { state } = doc;
  const id = `note-${step.id}`;
  return (
    <div className="flex flex-col gap-2 text-base">
      <span className="flex flex-wrap items-center gap-3 text-ink-2">
        <label htmlFor={id}>{asked[step.kind]}</label>
        <span
          role="status"
          className={['failed', 'conflict'].includes(state.phase) ? 'font-bold text-fault' : ''}
        >
          {state.phase === 'idle' && state.shown === '' ? '' : noteWords[state.phase]}
        </span>
        <span className="ml-auto">
          <EarlierStates
            of="note"
            id={`${path.id}/${path.slug}/${step.id}`}
            show={(value) => String(value)}
            restore={(value) => doc.happen({ is: 'typed', value: String(value) })}
          />
        </span>
      </span>
      <Trouble
        state={state}
        happen={(event) => doc.happen(event)}
        what="this note"
        sides={(mine, theirs) => (
          <dl className="grid grid-cols-[auto_minmax(0,1fr)] gap-x-3">
            <dt className="text-ink-2">mine</dt>
            <dd className="whitespace-pre-wrap">{mine}</dd>
            <dt className="text-ink-2">theirs</dt>
            <dd className="whitespace-pre-wrap">{theirs}</dd>
          </dl>
        )}
      />
      <textarea
        id={id}
        className="input h-auto w-full py-2 text-lg leading-7 whitespace-pre-wrap"
        rows={4}
        maxLength={2000}
        value={state.shown}
        onChange={(event) => doc.happen({ is: 'typed', value: event.target.value })}
      />
    </div>
  );
}

/** A step that is read and talked about, with the course beside it. */
function TextStep({ step }: { step: LessonStep }) {
  const { lesson, base } = useStage();
  const steps = stepsOf(lesson);
  const at = steps.findIndex(({ id }) => id === step.id);
  const [before, after] = [steps[at - 1], steps[at + 1]];
  const shows = ['brief', 'predict', 'extend'].includes(step.kind);
  return (
    <div
      className={`grid min-h-0 flex-1 gap-4 ${shows ? 'lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]' : ''} lg:grid-rows-[minmax(0,1fr)]`}
    >
      <Panel
        className={shows ? '' : 'mx-auto w-full max-w-[52rem]'}
        footer={
          <>
            {before ? (
              <Link className="btn btn-plain" to={`${base}/${before.id}`}>
                <ArrowLeft size={18} aria-hidden="true" /> Back to {stepFacts[before.kind].word}
              </Link>
            ) : null}
            {after ? (
              <Link className="btn btn-primary" to={`${base}/${after.id}`}>
                On to {stepFacts[after.kind].word} <ArrowRight size={18} aria-hidden="true" />
              </Link>
            ) : null}
          </>
        }
      >
        <div className="flex flex-col gap-4 text-lg">
          <StepText step={step} />
          {asked[step.kind] ? <Notes step={step} /> : null}
        </div>
      </Panel>
      {shows ? (
        <Panel title={lesson.course.name} aside="a square is 10 cm">
          <MatDrawing
            className="min-h-0 w-full flex-1"
            course={lesson.course}
            label={`The course ${lesson.course.name}, to scale.`}
          />
        </Panel>
      ) : null}
    </div>
  );
}

/** The step that a team is at: its stage, or its text. Where it is, is kept. */
export default function StepPage() {
  const { step, path, place, base } = useStage();
  const client = useQueryClient();
  useEffect(() => {
    // Coming back where one left is a comfort: without a server the step still opens.
    if (!step || step.id === place) return;
    putPlace(client, path.id, path.slug, step.id);
    void api('PUT /teams/:id/lessons/:slug/place', { ...path, body: { step: step.id } }).catch(
      () => undefined,
    );
    // eslint-disable-next-line react-hooks/exhaustive-deps -- told once for each step that is opened
  }, [path.id, path.slug, step?.id]);
  if (!step)
    return (
      <Empty title="This lesson has no such step.">
        <Link className="btn btn-plain" to={base}>
          To the lesson
        </Link>
      </Empty>
    );
  if (!isWorking(step.kind)) return <TextStep key={step.id} step={step} />;
  const Stage = stages[step.kind];
  return (
    <Suspense fallback={<Loading what={stepFacts[step.kind].word} />}>
      <Stage key={step.id} />
    </Suspense>
  );
}
