import { formatNumber } from '@vigilum/core/quantity';
import { fittingOn, partName, sensorWords, type Kit, type RobotBuild } from '@vigilum/core/sensing';

/** Every socket of the kit: what it holds, set to what, how high. */
export function WiringTable({
  kit,
  build,
  wanted,
}: {
  kit: Kit;
  build: RobotBuild;
  wanted: readonly string[];
}) {
  return (
    <table className="w-full">
      <thead className="text-left text-ink-2">
        <tr>
          <th scope="col" className="w-20 py-1 pl-2 font-semibold">
            socket
          </th>
          <th scope="col" className="font-semibold">
            holds
          </th>
          <th scope="col" className="pr-3 font-semibold">
            set to
          </th>
          <th scope="col" className="pr-2 text-right font-semibold whitespace-nowrap">
            height, mm
          </th>
        </tr>
      </thead>
      <tbody>
        {kit.sockets.map((socket) => {
          const fitting = fittingOn(build, socket.name);
          const down = kit.sensors.find(({ id }) => id === fitting?.sensorId)?.mountMm !== undefined;
          return (
            <tr
              key={socket.name}
              className={`h-10 border-t border-line-soft ${wanted.includes(socket.name) ? 'bg-sea-soft' : ''}`}
            >
              <th scope="row" className="pl-2 text-left font-mono font-bold whitespace-nowrap">
                {socket.name}
                {socket.label ? (
                  <span className="ml-1.5 font-sans font-normal text-ink-2">{socket.label}</span>
                ) : null}
              </th>
              <td>
                {socket.takes === 'motor' ? (
                  <span className="text-ink-2">{socket.drives ?? 'no motor'}</span>
                ) : fitting ? (
                  <strong>{partName(kit, fitting.sensorId)}</strong>
                ) : (
                  <span className="text-ink-2">empty</span>
                )}
              </td>
              <td className="whitespace-nowrap">{fitting ? sensorWords[fitting.mode] : ''}</td>
              <td className="pr-2 text-right font-mono">
                {fitting && down ? formatNumber(fitting.heightMm, 0) : ''}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
