import {
  DndContext,
  PointerSensor,
  closestCenter,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { ArrowDown, ArrowUp, Copy, GripVertical, Plus } from 'lucide-react';
import { memo, useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import {
  copyOfStep,
  lessonAt,
  moveStep,
  newStep,
  stepFacts,
  stepKinds,
  stepsOf,
  timePlan,
  variantOf,
  type LessonStep,
  type Missing,
  type StepKind,
} from '@vigilum/core/lesson';
import { Panel } from '../ui/Panel.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { useBuilder } from './BuilderLayout.tsx';
import { StepEditor } from './StepEditor.tsx';
import { TeamPreview } from './TeamPreview.tsx';

const StepRow = memo(function StepRow({
  step,
  number,
  fromMin,
  chosen,
  faults,
  choose,
}: {
  step: LessonStep;
  number: number;
  fromMin: number;
  chosen: boolean;
  faults: number;
  choose: (id: string) => void;
}) {
  const { setNodeRef: dropRef, isOver } = useDroppable({ id: step.id });
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({ id: step.id });
  const word = stepFacts[step.kind].word;
  return (
    <li ref={dropRef} className={isOver ? 'rounded-lg outline-2 outline-sea' : ''}>
      <div
        ref={setNodeRef}
        style={transform ? { transform: `translate(0, ${transform.y}px)` } : undefined}
        className={`flex items-center rounded-lg ${isDragging ? 'relative z-10 bg-sheet shadow-lg' : ''} ${chosen ? 'bg-sea-soft' : 'hover:bg-line-soft'}`}
      >
        <span
          {...listeners}
          className="grid size-11 shrink-0 cursor-grab touch-none place-items-center text-ink-2"
          title="Drag to another place"
        >
          <GripVertical size={18} aria-hidden="true" />
        </span>
        <button
          type="button"
          data-step={step.id}
          aria-pressed={chosen}
          className="flex min-h-11 min-w-0 flex-1 items-baseline gap-2 py-2 pr-2 text-left"
          onClick={() => choose(step.id)}
        >
          <span className="w-6 shrink-0 text-right font-mono text-ink-2">{number}</span>
          <span className={`min-w-0 flex-1 ${chosen ? 'font-bold text-sea' : ''}`}>
            {step.title || word}
            {step.title && step.title !== word ? <span className="ml-1.5 text-ink-2">{word}</span> : null}
            {faults > 0 ? <span className="ml-1.5 font-bold text-fault">✕ {faults} missing</span> : null}
          </span>
          <span className="shrink-0 text-ink-2">
            {!stepFacts[step.kind].inPeriod
              ? `${step.minutes} min`
              : step.minutes > 0
                ? `${fromMin}–${fromMin + step.minutes} min`
                : ''}
          </span>
        </button>
      </div>
    </li>
  );
});

function AddStepChoice({ add }: { add: (kind: StepKind) => void }) {
  return (
    <label className="flex w-full min-w-0 items-center gap-2">
      <Plus size={18} aria-hidden="true" />
      <span className="font-bold">Add</span>
      <select
        className="input h-11 w-auto min-w-0 flex-1"
        aria-label="Add a step"
        value=""
        onChange={(event) => add(event.target.value as StepKind)}
      >
        <option value="">choose a step</option>
        {stepKinds.map((kind) => (
          <option key={kind} value={kind}>
            {stepFacts[kind].word}: {stepFacts[kind].says}
          </option>
        ))}
      </select>
    </label>
  );
}

function MissingList({
  missing,
  steps,
  open,
}: {
  missing: Missing[];
  steps: LessonStep[];
  open: (id: string) => void;
}) {
  if (missing.length === 0)
    return <p className="text-done">✓ Nothing is missing: the lesson is ready to be taught.</p>;
  return (
    <ul aria-label="Still missing" className="flex flex-col gap-1">
      {missing.map(({ step, grade, says }, i) => (
        <li
          key={i}
          className={`border-l-4 pl-3 ${grade === 'stop' ? 'border-l-fault font-bold' : 'border-l-line text-ink-2'}`}
        >
          {step !== null && steps.some(({ id }) => id === step) ? (
            <button type="button" className="min-h-11 text-left underline" onClick={() => open(step)}>
              {says}
            </button>
          ) : (
            <span>{says}</span>
          )}
        </li>
      ))}
    </ul>
  );
}

/** The steps of a lesson in their order; the chosen one open beside it, and what a team sees of it. */
export default function StepsView() {
  const { lesson, change, missing, draft } = useBuilder();
  const [search, setSearch] = useSearchParams();
  const steps = stepsOf(lesson);
  const at = Math.max(
    0,
    steps.findIndex(({ id }) => id === search.get('step')),
  );
  const step = steps[at];
  const plan = useMemo(() => timePlan(lesson), [lesson]);
  const list = useRef<HTMLOListElement>(null);
  const refocus = useRef<string | null>(null);
  const [says, setSays] = useState('');
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const choose = useMemo(
    () => (id: string) => setSearch({ step: id }, { replace: true }),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- it changes with every address, and rows would be drawn anew
    [],
  );
  const put = (next: LessonStep[], field = '') => change({ ...lesson, steps: next }, field);
  useEffect(() => {
    const id = refocus.current;
    refocus.current = null;
    if (id) list.current?.querySelector<HTMLElement>(`[data-step="${CSS.escape(id)}"]`)?.focus();
  });

  const move = (from: number, to: number) => {
    const moved = steps[from];
    if (!moved || to < 0 || to >= steps.length || from === to) return;
    refocus.current = moved.id;
    put(moveStep(steps, from, to));
    setSays(`${moved.title || stepFacts[moved.kind].word} is now step ${to + 1} of ${steps.length}.`);
  };
  const insert = (fresh: LessonStep) => {
    put([...steps.slice(0, at + 1), fresh, ...steps.slice(at + 1)]);
    choose(fresh.id);
  };
  const takeOut = () => {
    if (!step || steps.length === 1) return;
    put(steps.filter(({ id }) => id !== step.id));
    choose((steps[at + 1] ?? steps[at - 1])!.id);
    setSays(`${step.title || stepFacts[step.kind].word} was taken out. Undo brings it back.`);
  };
  const deferred = useDeferredValue(lesson);
  const shown = useMemo(() => {
    const usual = variantOf(deferred);
    const inPlace = stepsOf(usual);
    const own = inPlace.find(({ id }) => id === step?.id) ?? inPlace[0];
    return own ? { lesson: lessonAt(usual, own), step: own } : null;
  }, [deferred, step?.id]);

  return (
    <div className="grid min-h-0 flex-1 gap-4 lg:grid-cols-[23rem_minmax(0,1fr)_minmax(0,24rem)] lg:grid-rows-[minmax(0,1fr)]">
      <Panel
        title="Steps"
        aside={plan.says}
        footer={
          <>
            <AddStepChoice add={(kind) => insert(newStep(kind, steps))} />
            <span role="status" className="sr-only">
              {says}
            </span>
          </>
        }
      >
        <DndContext
          sensors={sensors}
          collisionDetection={closestCenter}
          onDragEnd={({ active, over }) => {
            const of = (id: unknown) => steps.findIndex((one) => one.id === id);
            if (over) move(of(active.id), of(over.id));
          }}
        >
          <ol
            ref={list}
            aria-label="Steps of the lesson"
            className="flex flex-col gap-0.5"
            onKeyDown={(event) => {
              const id = (event.target as HTMLElement).dataset.step;
              const from = steps.findIndex((one) => one.id === id);
              if (from < 0 || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
              event.preventDefault();
              const to = from + (event.key === 'ArrowUp' ? -1 : 1);
              if (event.altKey) move(from, to);
              else
                list.current
                  ?.querySelector<HTMLElement>(`[data-step="${CSS.escape(steps[to]?.id ?? '')}"]`)
                  ?.focus();
            }}
          >
            {steps.map((one, i) => (
              <StepRow
                key={one.id}
                step={one}
                number={i + 1}
                fromMin={plan.steps[i]?.fromMin ?? 0}
                chosen={i === at}
                faults={missing.filter((m) => m.step === one.id && m.grade === 'stop').length}
                choose={choose}
              />
            ))}
          </ol>
        </DndContext>
        <h3 className="mt-4 mb-1 font-bold">Still missing</h3>
        <MissingList missing={missing} steps={steps} open={choose} />
      </Panel>
      {step ? (
        <Panel
          title={
            <span className="flex items-center gap-1">
              {at + 1}. {stepFacts[step.kind].word}
              <button
                type="button"
                className="grid size-11 place-items-center rounded-lg hover:bg-line-soft disabled:opacity-40"
                title="Move the step up (Alt + arrow up in the list)"
                disabled={at === 0}
                onClick={() => move(at, at - 1)}
              >
                <ArrowUp size={19} aria-hidden="true" />
                <span className="sr-only">Move the step up</span>
              </button>
              <button
                type="button"
                className="grid size-11 place-items-center rounded-lg hover:bg-line-soft disabled:opacity-40"
                title="Move the step down (Alt + arrow down in the list)"
                disabled={at === steps.length - 1}
                onClick={() => move(at, at + 1)}
              >
                <ArrowDown size={19} aria-hidden="true" />
                <span className="sr-only">Move the step down</span>
              </button>
              <button
                type="button"
                className="grid size-11 place-items-center rounded-lg hover:bg-line-soft"
                title="A second step like this one"
                onClick={() => insert(copyOfStep(step, steps))}
              >
                <Copy size={18} aria-hidden="true" />
                <span className="sr-only">A second step like this one</span>
              </button>
              <RemoveButton title="Take this step out" disabled={steps.length === 1} onClick={takeOut} />
            </span>
          }
          aside={stepFacts[step.kind].says}
        >
          <StepEditor
            key={step.id}
            step={step}
            lesson={lesson}
            change={(next, field) =>
              put(
                steps.map((one) => (one.id === step.id ? next : one)),
                `${step.id} ${field}`,
              )
            }
          />
        </Panel>
      ) : null}
      <Panel scrolls title="As a team sees it">
        {shown ? <TeamPreview lesson={shown.lesson} step={shown.step} kits={draft.kits} /> : null}
      </Panel>
    </div>
  );
}
