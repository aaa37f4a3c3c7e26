import { buildCourse, type Course, type CourseFamily } from '@vigilum/core/course';

/** The numbers of a family as sliders with their values; the course follows at once. */
export function FamilyPanel({
  family,
  values,
  change,
}: {
  family: CourseFamily;
  values: Record<string, number>;
  change: (course: Course, values: Record<string, number>) => void;
}) {
  return (
    <div className="flex flex-col gap-3">
      <p className="text-ink-2">{family.says}</p>
      {family.parameters.map(({ id, name, unit, from, to, usual }) => {
        const value = values[id] ?? usual;
        const put = (next: number) => {
          if (!Number.isFinite(next)) return;
          const all = { ...values, [id]: Math.min(to, Math.max(from, next)) };
          change(buildCourse(family, all), all);
        };
        return (
          <label key={id} className="flex flex-col">
            <span className="flex items-baseline gap-2">
              <span className="text-ink-2">{name}</span>
              <span className="ml-auto font-mono font-bold">
                {value} {unit}
              </span>
            </span>
            <input
              type="range"
              className="h-11 w-full accent-(--sea)"
              min={from}
              max={to}
              step={unit === 'mm' ? (to > 300 ? 10 : 1) : 1}
              value={value}
              onChange={(event) => put(Number(event.target.value))}
            />
          </label>
        );
      })}
    </div>
  );
}
