import { unknowns } from '@vigilum/core/lesson';
import { Panel } from '../ui/Panel.tsx';

/** What the simulated robot has of a real one, and where it comes from. */
const has = [
  ['Starting, stopping and rolling on', 'the kit’s two times and its delay, or what your floor trials gave'],
  ['A least speed that turns a wheel', 'the kit’s number; the review warns of speeds below it'],
  ['Wheels that stall, corners that turn the robot, jams', 'contact with everything that stands or moves'],
  ['Light readings with this robot’s own gain and scatter', 'the readings that the team has taken'],
  ['Looks that come late', 'each sensor’s own period, at a moment that nobody chose'],
  ['Echoes that miss slanted walls, and hide what is behind', 'the cone of the sensor and what stands in it'],
  ['Wheels that differ, a low battery, a heading that creeps or reads too much', 'the lesson’s conditions'],
] as const;

/** What a simulated run can tell and what it cannot, for teachers. */
export default function SimulatorView() {
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)]">
      <Panel
        scrolls
        title="What the simulator does not know"
        aside="what lets a proved program fail most often first"
      >
        <ol className="flex flex-col gap-3">
          {unknowns.map(({ id, says, shows }, i) => (
            <li key={id} className="flex gap-3 border-l-4 border-l-brass pl-3">
              <span className="font-mono text-ink-2">{i + 1}</span>
              <span>
                <strong className="block">{says}</strong>
                <span className="text-ink-2">{shows}</span>
              </span>
            </li>
          ))}
        </ol>
      </Panel>
      <Panel scrolls title="What it has of the real robot">
        <dl className="flex flex-col gap-3">
          {has.map(([what, from]) => (
            <div key={what} className="border-l-4 border-l-done pl-3">
              <dt className="font-bold">{what}</dt>
              <dd className="text-ink-2">{from}</dd>
            </div>
          ))}
        </dl>
        <p className="mt-4">
          The same script, robot, conditions and seed give the same run, on every computer: no verdict, length
          or end pose differs.
        </p>
      </Panel>
    </div>
  );
}
