import { formatNumber } from '@vigilum/core/quantity';
import { fittingOn, partName, sensorWords, type Kit, type RobotBuild } from '@vigilum/core/sensing';
import { TableHead } from '../ui/TableHead.tsx';

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
      <TableHead columns={['socket', 'holds', 'set to', '|height, mm']} />
      <tbody>
        {kit.sockets.map((socket) => {
          const fitting = fittingOn(build, socket.name);
          const down = kit.sensors.find(({ id }) => id === fitting?.sensorId)?.mountMm !== undefined;
          return (
            <tr
              key={socket.name}
              className={`h-10 border-t border-line-soft ${wanted.includes(socket.name) ? 'bg-sea-soft' : ''}`}
            >
              <th scope="row" className="pr-3 pl-2 text-left font-mono font-bold whitespace-nowrap">
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
