import { Check, CircleAlert, LoaderCircle } from 'lucide-react';
import type { Saving } from './useAutosave.ts';

/** Whether what is on screen is kept. */
export function SavedMark({ saving }: { saving: Saving }) {
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
