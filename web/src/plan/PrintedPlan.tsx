import type { YearPlan } from '@vigilum/contract/types';
import { clockOf } from './usePlan.ts';

/** The hours of some days as they go on paper: a line each, with class, lesson and room; lost hours with their reason. */
export function PrintedPlan({
  plan,
  from,
  to,
  title,
  classes,
}: {
  plan: YearPlan;
  /** Days, both of them belong to it. */
  from: string;
  to: string;
  title: string;
  classes: ReadonlySet<number>;
}) {
  const clock = clockOf(plan.zone);
  const within = (at: number) => from <= clock.iso(at) && clock.iso(at) <= to;
  const names = new Map(plan.classes.map(({ id, name }) => [id, name]));
  const things = new Map(plan.things.map(({ id, name }) => [id, name]));
  const byMeeting = new Map(
    plan.hours.flatMap((hour) => (hour.meeting === null ? [] : [[hour.meeting, hour] as const])),
  );
  const lines = [
    ...plan.meetings.map((meeting) => ({
      ...meeting,
      room: meeting.room === null ? '' : (things.get(meeting.room) ?? ''),
      says: meeting.lost ?? byMeeting.get(meeting.id)?.lesson.title ?? '–',
    })),
    ...plan.hours
      .filter(({ meeting }) => meeting === null)
      .map((hour) => ({ ...hour, lost: null, room: '', says: hour.lesson.title })),
  ]
    .filter((line) => classes.has(line.class) && within(line.startsAt))
    .sort((a, b) => a.startsAt - b.startsAt);
  return (
    <section className="hidden print:block">
      <h2 className="mb-2 text-lg font-bold">{title}</h2>
      <table className="w-full text-left">
        <thead>
          <tr>
            {['day', 'time', 'class', 'lesson', 'room'].map((word) => (
              <th key={word} scope="col" className="border-b border-ink py-1 pr-4">
                {word}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <tr
              key={`${line.class} ${line.startsAt} ${line.says}`}
              className="break-inside-avoid border-b border-line"
            >
              <td className="py-1 pr-4 whitespace-nowrap">{clock.day(line.startsAt)}</td>
              <td className="pr-4 whitespace-nowrap">
                {clock.time(line.startsAt)}, {line.minutes} min
              </td>
              <td className="pr-4">{names.get(line.class)}</td>
              <td className={`pr-4 ${line.lost === null ? 'font-bold' : 'italic'}`}>
                {line.lost === null ? line.says : `does not take place: ${line.says}`}
              </td>
              <td>{line.room}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {plan.daysOff
        .filter((off) => off.to >= from && off.from <= to)
        .map((off) => (
          <p key={off.id} className="pt-1">
            {off.name}: {off.from === off.to ? off.from : `${off.from} to ${off.to}`}
          </p>
        ))}
    </section>
  );
}
