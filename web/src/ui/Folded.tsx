import { useState, type ReactNode } from 'react';

/** A form that lies folded until it is needed; opened or closed by hand it stays so. */
export function Folded({
  title,
  children,
  open: first = false,
}: {
  title: string;
  children: ReactNode;
  open?: boolean;
}) {
  const [open, setOpen] = useState(first);
  return (
    <details
      className="border-t border-line-soft pt-1"
      open={open}
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="flex min-h-11 cursor-pointer items-center font-bold">{title}</summary>
      <div className="flex flex-col gap-2.5 pb-2">{children}</div>
    </details>
  );
}
