import { DayField } from '../ui/fields.tsx';

/** The first and the last of some days, as ISO 8601 writes them. */
export interface DaySpan {
  from: string;
  to: string;
}

export const noDays: DaySpan = { from: '', to: '' };

/** One day, or from which to which. */
export const spanWords = ({ from, to }: DaySpan): string => (from === to ? from : `${from} to ${to}`);

/** Asks for a first and a last day. */
export function DaysFields({ from, to, set }: DaySpan & { set: (days: DaySpan) => void }) {
  return (
    <div className="flex flex-wrap gap-2">
      <DayField label="first day" value={from} change={(day) => set({ from: day, to })} />
      <DayField label="last day" value={to} change={(day) => set({ from, to: day })} />
    </div>
  );
}
