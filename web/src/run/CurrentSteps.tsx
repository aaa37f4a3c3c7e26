import { useEffect, useRef } from 'react';

/** The script with the step that is being done marked and kept in sight. */
export function CurrentSteps({ text, current, over }: { text: string; current: number; over: boolean }) {
  const lines = text.replace(/\n+$/, '').split('\n');
  const here = useRef<HTMLLIElement>(null);
  const frame = useRef<HTMLOListElement>(null);
  useEffect(() => {
    // Only the list itself moves: the page stays where it is read.
    const [list, row] = [frame.current, here.current];
    if (!list || !row) return;
    const top = row.offsetTop - list.offsetTop;
    if (top < list.scrollTop) list.scrollTop = top;
    else if (top + row.offsetHeight > list.scrollTop + list.clientHeight)
      list.scrollTop = top + row.offsetHeight - list.clientHeight;
  }, [current]);
  return (
    <ol
      ref={frame}
      {...(lines.length > 12 ? { tabIndex: 0, 'aria-label': 'Steps' } : {})}
      className={`rounded-lg border border-line py-1 font-mono leading-7 ${lines.length > 12 ? 'max-h-72 shrink-0 overflow-y-auto' : ''}`}
    >
      {lines.map((line, i) => (
        <li
          key={i}
          ref={current === i + 1 ? here : undefined}
          aria-current={current === i + 1 ? 'step' : undefined}
          className={`flex gap-2.5 px-2 ${current === i + 1 ? 'bg-sea-soft font-bold text-sea' : ''}`}
        >
          <span className="w-5 shrink-0 text-right text-ink-2">{i + 1}</span>
          <span className="min-w-0 break-words whitespace-pre-wrap">{line || ' '}</span>
        </li>
      ))}
      {over ? (
        <li aria-current="step" className="flex gap-2.5 bg-line-soft px-2 font-sans text-ink-2">
          <span className="w-5 shrink-0 text-right">–</span>nothing left to do
        </li>
      ) : null}
    </ol>
  );
}
