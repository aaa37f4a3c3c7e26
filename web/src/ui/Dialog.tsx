import { Button } from './Button.tsx';
import { useEffect, useId, useRef, type ReactNode } from 'react';

/** A sheet over the page: its heading, what stands beside it, and its contents. Esc closes it. What has `data-autofocus` has the focus first. */
export function Dialog({
  title,
  aside,
  close,
  width,
  children,
}: {
  title: string;
  aside?: ReactNode;
  close: () => void;
  /** A Tailwind width: "w-[34rem]". */
  width: string;
  children: ReactNode;
}) {
  const dialog = useRef<HTMLDialogElement>(null);
  const heading = useId();
  useEffect(() => {
    const shown = dialog.current;
    if (!shown || shown.open) return;
    shown.showModal();
    // The first thing would be the button that closes it: where something is to be typed, that comes first.
    shown.querySelector<HTMLElement>('[data-autofocus]')?.focus();
  }, []);
  return (
    <dialog
      ref={dialog}
      onClose={close}
      aria-labelledby={heading}
      className={`panel m-auto max-h-[92dvh] max-w-[96vw] overflow-auto p-5 text-ink backdrop:bg-black/50 ${width}`}
    >
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <h2 id={heading} className="mr-auto text-lg font-bold">
          {title}
        </h2>
        {aside}
        <Button onClick={() => dialog.current?.close()}>Close</Button>
      </div>
      {children}
    </dialog>
  );
}
