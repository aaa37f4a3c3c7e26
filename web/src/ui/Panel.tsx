import type { ReactNode } from 'react';

interface PanelProps {
  title?: ReactNode;
  aside?: ReactNode;
  /** Stays in sight at the foot while the contents scroll. */
  footer?: ReactNode;
  children: ReactNode;
  /** Holds nothing that takes the focus and may be longer than its place: keys must be able to scroll it. */
  scrolls?: boolean;
  className?: string;
}

/** A sheet on the bench: heading, a quiet line beside it, contents that scroll when there is no room, a foot. */
export function Panel({ title, aside, footer, children, scrolls = false, className = '' }: PanelProps) {
  return (
    <section className={`panel flex min-h-0 min-w-0 flex-col p-4 ${className}`}>
      {title ? (
        <div className="mb-2 flex flex-wrap items-baseline gap-x-3 gap-y-0.5">
          <h2 className="text-lg leading-tight font-bold">{title}</h2>
          {aside ? <div className="text-ink-2">{aside}</div> : null}
        </div>
      ) : null}
      <div
        className="-mx-1 flex min-h-0 flex-1 flex-col overflow-x-hidden overflow-y-auto px-1"
        {...(scrolls
          ? { tabIndex: 0, role: 'group', 'aria-label': typeof title === 'string' ? title : undefined }
          : {})}
      >
        {children}
      </div>
      {footer ? <div className="flex flex-wrap items-center gap-2.5 pt-3">{footer}</div> : null}
    </section>
  );
}

/** The one number a stage produces. */
export function Figure({
  label,
  value,
  unit,
  tone = '',
}: {
  label: string;
  value: string;
  unit?: string;
  tone?: string;
}) {
  return (
    <div className="min-w-0">
      <div className="text-ink-2">{label}</div>
      <div className={`flex items-baseline gap-2 leading-none ${tone}`}>
        <span
          className={`font-mono font-bold tracking-tight whitespace-nowrap ${value.length > 6 ? 'text-4xl' : 'text-figure'}`}
        >
          {value}
        </span>
        {unit ? <span className="text-2xl text-ink-2">{unit}</span> : null}
      </div>
    </div>
  );
}

/** A smaller number with its label, for what stands beside the one. */
export function Fact({
  label,
  value,
  unit,
  note,
}: {
  label: string;
  value: string;
  unit?: string;
  note?: string;
}) {
  return (
    <div className="min-w-0">
      <div className="text-ink-2">{label}</div>
      <div className="flex flex-wrap items-baseline gap-x-1.5">
        <span className="font-mono text-2xl font-bold">{value}</span>
        {unit ? <span className="text-ink-2">{unit}</span> : null}
        {note ? <span className="text-ink-2">{note}</span> : null}
      </div>
    </div>
  );
}
