import { useDraggable, useDroppable } from '@dnd-kit/core';
import {
  ArrowDown,
  ArrowLeft,
  ArrowRight,
  ArrowUp,
  GripVertical,
  Pencil,
  Plus,
  Repeat,
  Trash2,
} from 'lucide-react';
import { useRef, useState, type ComponentType, type KeyboardEvent } from 'react';
import type { Finding } from '@vigilum/core/script';
import type { OutlineRow, StepField, StepPiece } from '@vigilum/core/editing';
import { Button } from '../../ui/Button.tsx';
import { VerdictMark, type Tone } from '../../ui/verdict.tsx';
import { StepFields, StepWords } from './StepFields.tsx';

/** What can be done with a row; a missing one cannot be done here. */
export interface RowActions {
  up?: () => void;
  down?: () => void;
  into?: () => void;
  out?: () => void;
  wrap?: () => void;
  addBelow: () => void;
  remove: () => void;
  retype: (code: string) => void;
  setField: (field: StepField, value: string) => void;
}

const toneOf = { fault: 'fault', risk: 'risk', note: 'now' } as const satisfies Record<string, Tone>;

function Action({
  icon: Icon,
  word,
  keys,
  act,
}: {
  icon: ComponentType<{ size: number; 'aria-hidden': 'true' }>;
  word: string;
  keys: string;
  act?: () => void;
}) {
  return (
    <button
      type="button"
      className="flex min-h-11 items-center gap-1 rounded-md px-2 text-sm font-semibold text-sea hover:bg-paper disabled:text-ink-2 disabled:opacity-50"
      title={`${word} (${keys})`}
      disabled={!act}
      onClick={act}
    >
      <Icon size={18} aria-hidden="true" />
      {word}
    </button>
  );
}

/** The step typed as text, for what its fields do not reach. */
function Retype({ code, done, leave }: { code: string; done: (code: string) => void; leave: () => void }) {
  const [typed, setTyped] = useState(code);
  return (
    <form
      className="flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        done(typed.trim());
      }}
    >
      <input
        className="input min-w-64 flex-1 font-mono"
        aria-label="Step as text"
        autoFocus
        value={typed}
        onChange={({ target }) => setTyped(target.value.replaceAll('\n', ' '))}
        onKeyDown={(event) => {
          if (event.key === 'Escape') leave();
        }}
      />
      <Button main type="submit">
        Write it
      </Button>
    </form>
  );
}

/** One step of the list. */
export function StepRow({
  row,
  pieces,
  findings,
  selected,
  select,
  actions,
  mark,
  onKeyDown,
}: {
  row: OutlineRow;
  pieces: readonly StepPiece[];
  findings: readonly Finding[];
  selected: boolean;
  select: () => void;
  /** Null while the row is not chosen. */
  actions: RowActions | null;
  /** Where a step being dragged would come to lie. */
  mark: 'above' | 'below' | null;
  onKeyDown: (event: KeyboardEvent) => void;
}) {
  const [retyping, setRetyping] = useState(false);
  const movable = row.role !== 'arm' && row.role !== 'end';
  const drag = useDraggable({ id: row.line, disabled: !movable });
  const drop = useDroppable({ id: row.line });
  const line = useRef<HTMLLIElement | null>(null);
  const [worst] = findings;
  const edge = mark === 'above' ? 'border-t-sea' : 'border-t-transparent';
  const foot = mark === 'below' ? 'border-b-sea' : 'border-b-transparent';
  const words = row.role === 'comment' ? row.comment : row.code;
  return (
    <li
      ref={(element) => {
        line.current = element;
        drop.setNodeRef(element);
      }}
      data-row={row.line}
      tabIndex={-1}
      onKeyDown={(event) => {
        const field =
          event.target instanceof HTMLElement && ['INPUT', 'SELECT'].includes(event.target.tagName);
        if (event.key === 't' && !field && !event.ctrlKey && !event.metaKey && !event.altKey) {
          event.preventDefault();
          if (!selected) select();
          setRetyping(true);
        } else onKeyDown(event);
      }}
      className={`rounded-lg outline-offset-[-3px] focus-visible:outline-3 focus-visible:outline-sea border-t-3 border-b-3 ${edge} ${foot} ${drag.isDragging ? 'opacity-40' : ''}`}
    >
      <div className={`rounded-lg ${selected ? 'bg-sea-soft' : ''}`}>
        <div className="flex items-center gap-1">
          <button
            ref={drag.setNodeRef}
            type="button"
            className={`flex min-h-11 w-9 shrink-0 touch-none items-center justify-center text-ink-2 ${movable ? 'cursor-grab' : 'invisible'}`}
            aria-label={`Drag line ${row.line}`}
            tabIndex={-1}
            {...drag.listeners}
          >
            <GripVertical size={18} aria-hidden="true" />
          </button>
          <span className="w-7 shrink-0 text-right font-mono text-sm text-ink-2">{row.line}</span>
          <span className="flex shrink-0 self-stretch pl-2" aria-hidden="true">
            {Array.from({ length: row.depth }, (_, i) => (
              <span key={i} className="w-5 border-l-2 border-line" />
            ))}
          </span>
          {actions &&
          row.role !== 'comment' &&
          row.role !== 'blank' &&
          pieces.some((p) => p.kind !== 'words') ? (
            <div className="min-w-0 flex-1 py-1">
              <StepFields pieces={pieces} set={actions.setField} />
              {row.comment ? <span className="text-ink-2 italic">{row.comment}</span> : null}
            </div>
          ) : (
            <button
              type="button"
              className="flex min-h-11 min-w-0 flex-1 flex-wrap items-center gap-x-3 py-1 text-left"
              aria-label={`Line ${row.line}: ${words || 'empty'}`}
              aria-pressed={selected}
              onClick={select}
            >
              {row.code ? (
                row.role === 'fault' ? (
                  <span className="font-mono text-fault">{row.code}</span>
                ) : (
                  <StepWords pieces={pieces} />
                )
              ) : null}
              {row.comment ? <span className="text-ink-2 italic">{row.comment}</span> : null}
            </button>
          )}
          {worst ? (
            <span className="flex shrink-0 items-center gap-1 pr-2" title={worst.says}>
              <VerdictMark tone={toneOf[worst.grade]} />
              <span className="text-sm font-semibold max-sm:sr-only">{worst.grade}</span>
            </span>
          ) : null}
        </div>
        {actions ? (
          <div className="pb-1 pl-[4.75rem] max-sm:pl-2">
            {retyping ? (
              <Retype
                code={row.code}
                leave={() => {
                  setRetyping(false);
                  // The keys go on from the row, not from the top of the page.
                  line.current?.focus();
                }}
                done={(code) => {
                  setRetyping(false);
                  actions.retype(code);
                }}
              />
            ) : (
              <div className="flex flex-wrap">
                <Action icon={Plus} word="Add below" keys="A" act={actions.addBelow} />
                <Action icon={ArrowUp} word="Up" keys="Alt ↑" act={actions.up} />
                <Action icon={ArrowDown} word="Down" keys="Alt ↓" act={actions.down} />
                <Action icon={ArrowRight} word="Into" keys="Alt →" act={actions.into} />
                <Action icon={ArrowLeft} word="Out" keys="Alt ←" act={actions.out} />
                <Action icon={Repeat} word="Repeat it" keys="R" act={actions.wrap} />
                <Action icon={Pencil} word="As text" keys="T" act={() => setRetyping(true)} />
                <Action icon={Trash2} word="Remove" keys="Delete" act={actions.remove} />
              </div>
            )}
          </div>
        ) : null}
      </div>
    </li>
  );
}
