/**
 * Signal temporal logic over sampled traces. Windows are in seconds relative to the moment looked from;
 * an open end (null) reaches to the end of the trace.
 */
export type Formula =
  | { is: 'compare'; signal: string; op: '<' | '>'; value: number }
  | { is: 'not'; of: Formula }
  | { is: 'and' | 'or'; of: Formula[] }
  | { is: 'always' | 'eventually'; window: [number, number | null]; of: Formula }
  | { is: 'until'; window: [number, number | null]; first: Formula; then: Formula };

export const above = (signal: string, value: number): Formula => ({ is: 'compare', signal, op: '>', value });
export const below = (signal: string, value: number): Formula => ({ is: 'compare', signal, op: '<', value });
export const not = (of: Formula): Formula => ({ is: 'not', of });
export const all = (...of: Formula[]): Formula => ({ is: 'and', of });
export const any = (...of: Formula[]): Formula => ({ is: 'or', of });
export const implies = (a: Formula, b: Formula): Formula => any(not(a), b);
export const always = (of: Formula, window: [number, number | null] = [0, null]): Formula => ({
  is: 'always',
  window,
  of,
});
export const eventually = (of: Formula, window: [number, number | null] = [0, null]): Formula => ({
  is: 'eventually',
  window,
  of,
});
/** Holds for good from some moment on: on a finished trace, at its last sample. */
export const inTheEnd = (of: Formula): Formula => eventually(always(of));

/** The signals a formula looks at. */
export function signalsOf(formula: Formula): string[] {
  switch (formula.is) {
    case 'compare':
      return [formula.signal];
    case 'not':
    case 'always':
    case 'eventually':
      return signalsOf(formula.of);
    case 'and':
    case 'or':
      return formula.of.flatMap(signalsOf);
    case 'until':
      return [...signalsOf(formula.first), ...signalsOf(formula.then)];
  }
}
