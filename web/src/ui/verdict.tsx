import { Check, Circle, CircleDot, Minus, TriangleAlert, X, type LucideIcon } from 'lucide-react';
import type { StageState } from '@vigilum/core/classroom';

/** A stage's state is the tone it is shown in. */
export type Tone = StageState;

interface ToneFacts {
  icon: LucideIcon;
  word: string;
  chip: string;
  text: string;
}

/** Mark, word and colour of every verdict: never colour alone. */
export const tones: Record<Tone, ToneFacts> = {
  done: { icon: Check, word: 'done', chip: 'bg-done-soft text-done', text: 'text-done' },
  now: {
    icon: CircleDot,
    word: 'working on it',
    chip: 'bg-sheet text-ink ring-2 ring-inset ring-signal',
    text: 'text-ink',
  },
  risk: {
    icon: TriangleAlert,
    word: 'works on a good day',
    chip: 'bg-brass-soft text-brass',
    text: 'text-brass',
  },
  fault: { icon: X, word: 'will not work as written', chip: 'bg-fault-soft text-fault', text: 'text-fault' },
  none: { icon: Minus, word: 'not begun', chip: 'text-ink-2', text: 'text-ink-2' },
};

/** A mark with its word for screen readers, or shown. */
export function VerdictMark({ tone, size = 18 }: { tone: Tone; size?: number }) {
  const Icon = tone === 'none' ? Circle : tones[tone].icon;
  return <Icon size={size} strokeWidth={2.6} aria-hidden="true" className={`shrink-0 ${tones[tone].text}`} />;
}

/** Mark and words in one rounded chip. */
export function VerdictChip({ tone, children }: { tone: Tone; children?: React.ReactNode }) {
  const { icon: Icon, chip, word } = tones[tone];
  return (
    <span className={`inline-flex items-center gap-1.5 rounded-lg px-2.5 py-1 font-semibold ${chip}`}>
      <Icon size={16} strokeWidth={2.8} aria-hidden="true" />
      <span>{children ?? word}</span>
    </span>
  );
}
