import { Check, CircleAlert, CloudOff, LoaderCircle } from 'lucide-react';
import type { Phase } from './machine.ts';

/** Whether the server has what is on screen: “saved” is said of nothing else. */
export function SavedMark({ phase }: { phase: Phase }) {
  if (phase === 'idle')
    return (
      <span className="flex items-center gap-1.5 text-done">
        <Check size={18} aria-hidden="true" /> saved
      </span>
    );
  if (phase === 'offline')
    return (
      <span
        className="flex items-center gap-1.5 font-bold text-brass"
        title="It is kept in this browser and sent when the server answers"
      >
        <CloudOff size={18} aria-hidden="true" /> kept here
      </span>
    );
  if (phase === 'failed' || phase === 'conflict')
    return (
      <span className="flex items-center gap-1.5 font-bold text-fault">
        <CircleAlert size={18} aria-hidden="true" /> not saved
      </span>
    );
  return (
    <span className="flex items-center gap-1.5 text-ink-2">
      <LoaderCircle size={18} aria-hidden="true" className="animate-spin" /> saving …
    </span>
  );
}
