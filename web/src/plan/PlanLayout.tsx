import { NavLink, Outlet, useOutletContext } from 'react-router';
import type { YearPlan } from '@vigilum/contract/types';
import { Failed, Loading } from '../ui/states.tsx';
import { usePlanQuery } from './usePlan.ts';

const views = [
  ['/plan', 'Calendar'],
  ['/plan/series', 'Series'],
  ['/plan/cupboard', 'Cupboard'],
  ['/plan/skills', 'Skills'],
] as const;

/** The plan's pages: its calendar, the series that fill it, the cupboard that it takes from, the skills that it leads to. */
export default function PlanLayout() {
  const { data: plan, error } = usePlanQuery();
  return (
    <main className="flex min-h-0 flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3 lg:h-dvh lg:min-h-[40rem] lg:flex-none lg:overflow-hidden print:h-auto print:overflow-visible">
      <header className="flex shrink-0 flex-wrap items-center gap-x-6 gap-y-2 print:hidden">
        <h1 className="text-title font-bold">Plan</h1>
        <nav aria-label="Parts of the plan" className="flex flex-wrap gap-1">
          {views.map(([to, word]) => (
            <NavLink
              key={to}
              to={to}
              end
              className={({ isActive }) =>
                `inline-flex min-h-11 items-center rounded-lg border px-3.5 ${isActive ? 'border-sea bg-sea-soft font-bold text-sea' : 'border-edge bg-sheet'}`
              }
            >
              {word}
            </NavLink>
          ))}
        </nav>
      </header>
      {plan ? (
        <Outlet context={plan satisfies YearPlan} />
      ) : error ? (
        <Failed error={error} />
      ) : (
        <Loading what="the plan" />
      )}
    </main>
  );
}

export const usePlan = (): YearPlan => useOutletContext<YearPlan>();
