import { skillColumns, type Skill } from '@vigilum/core/year';

/** So many letters of a name fit into a box; a teacher's own may be longer. */
const FITS = 25;
const BOX = { width: 200, height: 62, across: 226, down: 78 };

interface Props {
  skills: readonly Skill[];
  /** What stands under the name of each: words, and how far the bar is filled, 0 to 1. */
  told: (skill: Skill) => { says: string; share: number };
}

/** The skills as a picture from left to right, with the lines of what should come before. */
export function SkillMap({ skills, told }: Props) {
  const columns = skillColumns(skills);
  const rows = new Map<number, number>();
  const places = new Map(
    skills.map(({ id }) => {
      const column = columns.get(id)!;
      const row = rows.get(column) ?? 0;
      rows.set(column, row + 1);
      return [id, { x: 8 + column * BOX.across, y: 8 + row * BOX.down }] as const;
    }),
  );
  const width = Math.max(...[...places.values()].map(({ x }) => x)) + BOX.width + 8;
  const height = Math.max(...[...places.values()].map(({ y }) => y)) + BOX.height + 8;
  return (
    <div className="overflow-auto" tabIndex={0} role="group" aria-label="The map of skills">
      <svg
        viewBox={`0 0 ${width} ${height}`}
        style={{ minWidth: width * 0.85, maxWidth: width * 1.15 }}
        className="w-full"
        role="img"
        aria-label={skills
          .map(({ name, needs }) =>
            needs.length === 0
              ? name
              : `${name}, after ${needs.map((need) => skills.find(({ id }) => id === need)?.name ?? need).join(' and ')}`,
          )
          .join('; ')}
      >
        <g fontFamily="var(--font-sans)" fontSize="15">
          {skills.flatMap(({ id, needs }) =>
            needs.map((need) => {
              const [from, to] = [places.get(need), places.get(id)!];
              if (!from) return null;
              const [x1, y1] = [from.x + BOX.width, from.y + BOX.height / 2];
              const [x2, y2] = [to.x, to.y + BOX.height / 2];
              const middle = (x1 + x2) / 2;
              return (
                <path
                  key={`${need} ${id}`}
                  d={`M${x1} ${y1}C${middle} ${y1} ${middle} ${y2} ${x2} ${y2}`}
                  fill="none"
                  stroke="var(--edge)"
                  strokeWidth="2"
                />
              );
            }),
          )}
          {skills.map((skill) => {
            const { id, name } = skill;
            const { x, y } = places.get(id)!;
            const { says, share } = told(skill);
            return (
              <g key={id} transform={`translate(${x} ${y})`}>
                <rect width={BOX.width} height={BOX.height} rx="8" fill="var(--sheet)" stroke="var(--edge)" />
                <rect
                  x="10"
                  y={BOX.height - 14}
                  width={BOX.width - 20}
                  height="6"
                  rx="3"
                  fill="var(--line-soft)"
                />
                <rect
                  x="10"
                  y={BOX.height - 14}
                  width={(BOX.width - 20) * share}
                  height="6"
                  rx="3"
                  fill="var(--done)"
                />
                <title>{name}</title>
                <text x="10" y="24" fill="var(--ink)" fontWeight="700">
                  {name.length > FITS ? `${name.slice(0, FITS - 1).trimEnd()}…` : name}
                </text>
                <text x="10" y="42" fill="var(--ink-2)" fontSize="14">
                  {says}
                </text>
              </g>
            );
          })}
        </g>
      </svg>
      <dl className="mt-4 grid grid-cols-1 gap-x-6 gap-y-1.5 xl:grid-cols-2">
        {skills.map(({ id, name, shows }) => (
          <div key={id}>
            <dt className="inline font-semibold">{name}: </dt>
            <dd className="inline text-ink-2">{shows}</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}
