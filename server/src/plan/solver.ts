import highs from 'highs';
import type { Solve } from '@vigilum/core/year';

/** The solver is loaded when it is first asked: it is 3 MB. */
let loaded: ReturnType<typeof highs> | null = null;
/** A timetable that is not solved after so long is told as it is, s. */
const TIME_LIMIT_S = 2;

/** Solves an integer program in the LP format by HiGHS; null where it finds no solution. */
export const solve: Solve = async (lp) => {
  const solver = await (loaded ??= highs());
  try {
    const found = solver.solve(lp, { time_limit: TIME_LIMIT_S, output_flag: false });
    if (found.Status !== 'Optimal' && found.Status !== 'Time limit reached') return null;
    return Object.fromEntries(
      Object.entries<{ Primal?: number }>(found.Columns).flatMap(([name, { Primal: value }]) =>
        value === undefined ? [] : [[name, value]],
      ),
    );
  } catch {
    // A solver that gave up may not be asked again.
    loaded = null;
    return null;
  }
};
