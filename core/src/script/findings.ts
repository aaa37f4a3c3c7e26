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
  fix?: Fix;
}

/** A mend of one tap: new lines after a line, other words in place of some, or a line taken away. */
export interface Fix {
  /** What the button says. */
  label: string;
  edit:
    | { kind: 'insert'; after: number; text: string }
    | { kind: 'replace'; at: Place; text: string }
    | { kind: 'remove'; line: number };
}

/** A finding that the text itself cannot be run. */
export function fault(place: Place, rule: string, says: string, mend: string): Finding {
  return { ...place, grade: 'fault', rule, says, why: '', mend };
}
