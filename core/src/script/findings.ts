/** Where something stands in a script: line and column count from 1, length in characters. */
export interface Place {
  line: number;
  column: number;
  length: number;
}

/**
 * Something to say about a script. *Fault*: it will not do what it says. *Risk*: it works on a good day.
 * *Note*: good to know.
 */
export interface Finding extends Place {
  grade: 'fault' | 'risk' | 'note';
  /** Which rule found it, for tests and for links into the reference. */
  rule: string;
  says: string;
  why: string;
  mend: string;
  /** A mend of one tap: put `text` as a line of its own after `afterLine`, or in place of a stretch. */
  fix?: { label: string; afterLine: number; text: string };
}

/** A finding that the text itself cannot be run. */
export function fault(place: Place, rule: string, says: string, mend: string): Finding {
  return { ...place, grade: 'fault', rule, says, why: '', mend };
}
