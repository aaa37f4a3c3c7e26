import { useEffect, useRef } from 'react';

/** Whether the key press belongs to a field that is being typed in. */
const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName));

/** A single-key shortcut: works wherever nothing is being typed. Enter and Space are left to focused buttons. */
export function useKey(key: string, act: () => void, enabled = true): void {
  const latest = useRef(act);
  useEffect(() => {
    latest.current = act;
  });
  useEffect(() => {
    if (!enabled) return;
    const onKey = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== key.toLowerCase() || event.ctrlKey || event.metaKey || event.altKey)
        return;
      if (typing(event.target)) return;
      const onControl =
        event.target instanceof HTMLElement &&
        event.target.closest('button, a, [role=button], [role=slider]');
      if ((key === 'Enter' || key === ' ') && onControl) return;
      event.preventDefault();
      latest.current();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [key, enabled]);
}
