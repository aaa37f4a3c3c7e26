import { useEffect, useState } from 'react';
import { countOf } from '@vigilum/core/quantity';

/** The wall clock in ms, refreshed every `everyMs`. */
export function useNow(everyMs = 1000): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), everyMs);
    return () => clearInterval(timer);
  }, [everyMs]);
  return now;
}

/** "just now", "6 min ago", "2 h ago", "3 days ago". */
export function ago(at: number, now: number): string {
  const minutes = Math.floor((now - at) / 60_000);
  if (minutes < 1) return 'just now';
  if (minutes < 60) return `${minutes} min ago`;
  if (minutes < 36 * 60) return `${Math.round(minutes / 60)} h ago`;
  return `${countOf(Math.round(minutes / 1440), 'day')} ago`;
}

/** Minutes and seconds: "27:40". */
export function clock(ms: number): string {
  const s = Math.max(0, Math.floor(ms / 1000));
  return `${Math.floor(s / 60)}:${String(s % 60).padStart(2, '0')}`;
}

/** A day as ISO 8601 writes it, by the clock of where the reader is: Swedish writes days so. */
export const isoDay = (at: number): string => new Intl.DateTimeFormat('sv-SE').format(at);
