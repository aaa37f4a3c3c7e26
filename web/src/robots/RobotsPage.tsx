import { useQuery } from '@tanstack/react-query';
import { sensorWords, type Kit, type RobotBuild } from '@vigilum/core/sensing';
import { formatNumber } from '@vigilum/core/quantity';
import { topSpeedMmPerS } from '@vigilum/core/motion';
import { get } from '../data/api.ts';
import { Panel } from '../ui/Panel.tsx';
import { Empty, Failed, Loading } from '../ui/states.tsx';

interface RobotEntry {
  id: number;
  name: string;
  kit: Kit;
  build: RobotBuild;
  team: string | null;
}

/** Every robot: whose it is, its measures, and what is plugged in where. */
export default function RobotsPage() {
  const robots = useQuery({ queryKey: ['robots'], queryFn: () => get<{ robots: RobotEntry[] }>('/robots') });
  if (robots.isPending) return <Loading what="the robots" />;
  if (robots.isError) return <Failed error={robots.error} again={() => void robots.refetch()} />;
  const list = robots.data.robots;
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3">
      <h1 className="text-title font-bold">Robots</h1>
      {list.length === 0 ? (
        <Empty title="No robot yet.">
          <p>This data folder holds no robot.</p>
        </Empty>
      ) : (
        <Panel className="overflow-x-auto">
          <table className="w-full">
            <thead className="text-left text-ink-2">
              <tr>
                {['robot', 'kit', 'team', 'plugged in', 'wheel, mm', 'track, mm', 'top speed, mm/s'].map(
                  (head, i) => (
                    <th
                      key={head}
                      scope="col"
                      className={`pr-4 pb-2 font-semibold ${i > 3 ? 'text-right' : ''}`}
                    >
                      {head}
                    </th>
                  ),
                )}
              </tr>
            </thead>
            <tbody>
              {list.map(({ id, name, kit, build, team }) => (
                <tr key={id} className="h-14 border-t border-line-soft">
                  <th scope="row" className="pr-4 text-left text-lg font-bold">
                    {name}
                  </th>
                  <td className="pr-4">{kit.name}</td>
                  <td className="pr-4">{team ?? <span className="text-ink-2">none</span>}</td>
                  <td className="pr-4">
                    {build.fittings.map((f) => (
                      <span key={f.socket} className="mr-4 inline-block">
                        <strong className="font-mono">{f.socket}</strong> {sensorWords[f.mode]}
                        {f.mode === 'light' ? (
                          <span className="text-ink-2"> at {formatNumber(f.heightMm, 0)} mm</span>
                        ) : null}
                      </span>
                    ))}
                  </td>
                  <td className="pr-4 text-right font-mono">{formatNumber(build.wheelDiameterMm)}</td>
                  <td className="pr-4 text-right font-mono">{formatNumber(build.trackMm)}</td>
                  <td className="pr-4 text-right font-mono">
                    {formatNumber(topSpeedMmPerS(kit.drive.topDegPerS, build.wheelDiameterMm), 0)}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Panel>
      )}
    </main>
  );
}
