import { NavLink, Outlet, useOutletContext, useParams, useLocation } from 'react-router';
import { formatNumber } from '@vigilum/core/quantity';
import { useRobot } from '../data/queries.ts';
import type { RobotDetail } from '@vigilum/contract/types';
import { Failed, Loading } from '../ui/states.tsx';
import { BackLink } from '../ui/BackLink.tsx';
import { TeamOfRobot } from './TeamOfRobot.tsx';

const tabs = [
  { to: 'bench', word: 'Bench' },
  { to: 'check', word: 'Check' },
  { to: 'read', word: 'Read' },
  { to: 'measure', word: 'Measure' },
  { to: 'files', word: 'Files' },
  { to: 'build', word: 'Build' },
];

/** What every view of one robot works from. */
export interface RobotContext {
  detail: RobotDetail;
  epoch: string;
  /** The server's clock less this machine's, ms. */
  skew: number;
}

export const useRobotContext = (): RobotContext => useOutletContext<RobotContext>();

/** One robot: whose it is, and its views. */
export default function RobotLayout() {
  const { id = '' } = useParams();
  const query = useRobot(id);
  const { pathname } = useLocation();
  if (query.isPending) return <Loading what="the robot" />;
  if (!query.data) return <Failed error={query.error} again={() => void query.refetch()} />;
  const detail = query.data;
  const context: RobotContext = {
    detail,
    epoch: JSON.stringify(detail.build.fittings),
    skew: detail.now - query.dataUpdatedAt,
  };
  return (
    <main
      data-part={tabs.find(({ to }) => pathname.endsWith(to))?.word}
      className="flex flex-1 flex-col px-6 pt-2.5 pb-4 max-sm:px-3 lg:h-dvh lg:min-h-[40rem] lg:flex-none"
    >
      <header className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
        <BackLink to="/robots" title="Back to all robots" />
        <h1 className="text-title font-bold">{detail.name}</h1>
        <span className="text-ink-2">
          kit {detail.kit.name} · wheels {formatNumber(detail.build.wheelDiameterMm)} mm · track{' '}
          {formatNumber(detail.build.trackMm)} mm
          {detail.standIn ? ' · stand-in' : ''}
        </span>
        <TeamOfRobot detail={detail} />
        <nav aria-label="Views of the robot" className="ml-auto flex flex-wrap gap-1">
          {tabs.map(({ to, word }) => (
            <NavLink
              key={to}
              to={to}
              className={({ isActive }) =>
                `flex min-h-11 items-center rounded-lg border px-3.5 ${isActive ? 'border-sea bg-sea-soft font-bold text-sea' : 'border-edge bg-sheet'}`
              }
            >
              {word}
            </NavLink>
          ))}
        </nav>
      </header>
      <div className="flex min-h-0 flex-1 flex-col gap-2">
        <Outlet context={context} />
      </div>
    </main>
  );
}
