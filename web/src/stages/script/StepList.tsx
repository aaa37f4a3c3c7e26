import { DndContext, PointerSensor, useSensor, useSensors, type DragMoveEvent } from '@dnd-kit/core';
import { Plus } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { type Finding, type Program } from '@vigilum/core/script';
import {
  indentStep,
  insertTemplate,
  moveStep,
  nudgeStep,
  outdentStep,
  outline,
  removeStep,
  replaceStep,
  stepPieces,
  withField,
  wrapStep,
  type Edited,
  type KnownRobotFacts,
  type OutlineRow,
} from '@vigilum/core/editing';
import { Button } from '../../ui/Button.tsx';
import { AddStep } from './AddStep.tsx';
import { StepRow, type RowActions } from './StepRow.tsx';

interface StepListProps {
  text: string;
  program: Program;
  robot: KnownRobotFacts;
  findings: readonly Finding[];
  edit: (edited: Edited) => void;
  selected: number | null;
  select: (line: number | null) => void;
}

/** The line after which a dragged step would come to lie, and the row that shows it. */
interface DropPlace {
  line: number;
  side: 'above' | 'below';
}

function placeOf({ active, over }: DragMoveEvent): DropPlace | null {
  const moved = active.rect.current.translated;
  if (!over || !moved) return null;
  const middle = over.rect.top + over.rect.height / 2;
  return { line: Number(over.id), side: moved.top + moved.height / 2 < middle ? 'above' : 'below' };
}

const afterOf = ({ line, side }: DropPlace) => (side === 'above' ? line - 1 : line);

/** The step-list view: every line a sentence that can be picked up, changed in place, moved by drag or by keys. */
export function StepList({ text, program, robot, findings, edit, selected, select }: StepListProps) {
  const list = useRef<HTMLUListElement>(null);
  const [adding, setAdding] = useState<number | null>(null);
  const [drop, setDrop] = useState<DropPlace | null>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const rows = useMemo(
    () => outline(text).map((row) => ({ ...row, pieces: stepPieces(row.code, program, robot) })),
    [text, program, robot],
  );
  // The empty last line of a text is no step.
  const shown = rows.filter((row, i) => row.role !== 'blank' || i < rows.length - 1);
  const focus = useRef<number | null>(null);
  useEffect(() => {
    const line = focus.current;
    if (line === null) return;
    focus.current = null;
    list.current?.querySelector<HTMLElement>(`[data-row="${line}"]`)?.focus();
  });

  useEffect(() => {
    const chosen = list.current?.querySelector<HTMLElement>(`[data-row="${selected}"]`);
    // Chosen from elsewhere, such as a finding: the keys go on from the row.
    if (chosen && !list.current?.contains(document.activeElement)) chosen.focus();
  }, [selected]);

  const done = (edited: Edited | null) => {
    if (!edited) return;
    edit(edited);
    select(edited.line);
    focus.current = edited.line;
  };
  const actionsFor = (row: OutlineRow): RowActions => {
    const { line } = row;
    const act = (edited: Edited | null) => (edited ? () => done(edited) : undefined);
    const whole =
      row.role === 'step' || row.role === 'block' || row.role === 'comment' || row.role === 'fault';
    const plain = whole && row.opens !== 'task' && row.opens !== 'whenever';
    return {
      up: whole ? act(nudgeStep(text, line, 'up')) : undefined,
      down: whole ? act(nudgeStep(text, line, 'down')) : undefined,
      into: plain ? act(indentStep(text, line)) : undefined,
      out: plain ? act(outdentStep(text, line)) : undefined,
      wrap: plain && row.role !== 'comment' ? () => done(wrapStep(text, line, 'repeat')) : undefined,
      addBelow: () => setAdding(line),
      remove: () => done(removeStep(text, line)),
      retype: (code) => done(replaceStep(text, line, code)),
      setField: (field, value) => edit(replaceStep(text, line, withField(row.code, field, value))),
    };
  };
  const go = (from: number, way: 1 | -1) => {
    const at = shown.findIndex((row) => row.line === from);
    const next = shown[at + way];
    if (!next) return;
    select(next.line);
    focus.current = next.line;
  };
  const keys = (event: KeyboardEvent, row: OutlineRow) => {
    const field = event.target instanceof HTMLElement && ['INPUT', 'SELECT'].includes(event.target.tagName);
    const actions = actionsFor(row);
    const chord = `${event.altKey ? 'Alt ' : ''}${event.key}`;
    const bound: Record<string, (() => void) | undefined> = {
      'Alt ArrowUp': actions.up,
      'Alt ArrowDown': actions.down,
      'Alt ArrowRight': actions.into,
      'Alt ArrowLeft': actions.out,
      ...(field || event.ctrlKey || event.metaKey
        ? {}
        : {
            ArrowUp: () => go(row.line, -1),
            ArrowDown: () => go(row.line, 1),
            Delete: actions.remove,
            a: actions.addBelow,
            r: actions.wrap,
          }),
    };
    if (!(chord in bound)) return;
    event.preventDefault();
    event.stopPropagation();
    bound[chord]?.();
  };
  const where = adding === null || adding === 0 ? 'at the start' : `below line ${adding}`;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <DndContext
        sensors={sensors}
        onDragMove={(event) => setDrop(placeOf(event))}
        onDragCancel={() => setDrop(null)}
        onDragEnd={({ active }) => {
          if (drop) done(moveStep(text, Number(active.id), afterOf(drop)));
          setDrop(null);
        }}
      >
        <ul ref={list} aria-label="Steps" className="min-h-0 flex-1 overflow-y-auto">
          {shown.map((row) => (
            <StepRow
              key={row.line}
              row={row}
              pieces={row.pieces}
              findings={findings.filter(({ line }) => line === row.line)}
              selected={selected === row.line}
              select={() => select(selected === row.line ? null : row.line)}
              // What can be done is worked out for the chosen row alone: a long script has hundreds.
              actions={selected === row.line ? actionsFor(row) : null}
              mark={drop?.line === row.line ? drop.side : null}
              onKeyDown={(event) => keys(event, row)}
            />
          ))}
        </ul>
      </DndContext>
      <div className="flex flex-wrap gap-2 pt-2">
        <Button main icon={Plus} onClick={() => setAdding(selected ?? shown.at(-1)?.line ?? 0)}>
          {selected === null ? 'Add a step at the end' : `Add a step below line ${selected}`}
        </Button>
      </div>
      {adding === null ? null : (
        <AddStep
          program={program}
          robot={robot}
          where={where}
          close={() => setAdding(null)}
          add={(template) => {
            const at = adding;
            setAdding(null);
            done(insertTemplate(text, at, template));
          }}
        />
      )}
    </div>
  );
}
