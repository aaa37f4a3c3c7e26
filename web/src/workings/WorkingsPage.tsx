import { lazy, Suspense, useState } from 'react';
import { NavLink, useParams } from 'react-router';
import { worksheets } from '@vigilum/core/workings';
import { useIsTeam } from '../data/me.ts';
import { Empty, Loading } from '../ui/states.tsx';
import { SheetView } from './SheetView.tsx';

const UnitsView = lazy(() => import('./UnitsView.tsx'));
const TwoBitView = lazy(() => import('./TwoBitView.tsx'));
const MoreView = lazy(() => import('./MoreView.tsx'));
const SimulatorView = lazy(() => import('./SimulatorView.tsx'));

/** Every calculation of the lessons, as on the board: formula, numbers put in, result, and where it comes from. */
export default function WorkingsPage() {
  const { sheet = worksheets[0]!.id } = useParams();
  const isTeam = useIsTeam();
  const [robot, setRobot] = useState('');
  const found = worksheets.find(({ id }) => id === sheet);
  const places = [
    ...worksheets.map(({ id, title }) => ({ id, title })),
    { id: 'units', title: 'Units' },
    { id: 'two-sensors', title: 'Two floor sensors' },
    // It works with a lesson’s model answer: that is the teacher’s.
    ...(isTeam ? [] : [{ id: 'more', title: 'What if it were more?' }]),
    { id: 'simulator', title: 'What a run can tell' },
  ];
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3 lg:h-dvh lg:min-h-[40rem] lg:flex-none">
      <h1 className="text-title font-bold">Workings</h1>
      <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[16.5rem_minmax(0,1fr)]">
        <nav
          aria-label="Calculations"
          className="panel flex gap-1 overflow-auto p-2 lg:flex-col print:hidden"
        >
          {places.map(({ id, title }) => (
            <NavLink
              key={id}
              to={`/workings/${id}`}
              className={`flex min-h-11 items-center rounded-lg px-3 max-lg:whitespace-nowrap ${id === sheet ? 'bg-sea-soft font-bold text-sea' : 'hover:bg-line-soft'}`}
              aria-current={id === sheet ? 'page' : undefined}
            >
              {title}
            </NavLink>
          ))}
        </nav>
        <Suspense fallback={<Loading what="the calculation" />}>
          {found ? (
            <SheetView key={found.id} sheet={found} from={robot} setFrom={setRobot} />
          ) : sheet === 'units' ? (
            <UnitsView />
          ) : sheet === 'two-sensors' ? (
            <TwoBitView />
          ) : sheet === 'more' && !isTeam ? (
            <MoreView />
          ) : sheet === 'simulator' ? (
            <SimulatorView />
          ) : (
            <Empty title="There is no such calculation.">
              <p>Choose one of the list.</p>
            </Empty>
          )}
        </Suspense>
      </div>
    </main>
  );
}
