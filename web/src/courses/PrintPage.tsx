import { Printer } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useParams } from 'react-router';
import { MARGIN_MM, OVERLAP_MM, papers, tilesOf, type Paper, type Tile } from '@vigilum/core/course';
import { courseShapes, surfaceHex } from '@vigilum/core/formats';
import { Button } from '../ui/Button.tsx';
import { BackLink } from '../ui/BackLink.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { usePrintRules } from '../ui/usePrintRules.ts';
import { useCourses } from './queries.ts';

/** Corners to cut along, a ruler to check the size with, and where the sheet belongs. */
function SheetMarks({
  w,
  h,
  tile,
  name,
  of,
}: {
  w: number;
  h: number;
  tile: Tile;
  name: string;
  of: string;
}) {
  const m = MARGIN_MM;
  const corners = [
    [m, m, -1, -1],
    [w - m, m, 1, -1],
    [w - m, h - m, 1, 1],
    [m, h - m, -1, 1],
  ] as const;
  return (
    <g fontFamily="var(--font-sans)" fontSize="3.4" fill="#17232d" stroke="none">
      {corners.map(([x, y, dx, dy], i) => (
        <path
          key={i}
          d={`M${x} ${y + dy * 1}V${y + dy * 8}M${x + dx * 1} ${y}H${x + dx * 8}`}
          stroke="#17232d"
          strokeWidth="0.25"
        />
      ))}
      <g transform={`translate(${m + 2} ${h - m + 7})`} stroke="#17232d" strokeWidth="0.3">
        <path
          d={`M0 0H100${Array.from({ length: 11 }, (_, i) => `M${i * 10} 0V${i % 5 === 0 ? -3 : -1.8}`).join('')}`}
          fill="none"
        />
        <text x="102" y="0.8" stroke="none">
          100 mm: measure it before you cut
        </text>
      </g>
      <text x={m + 2} y={m - 4}>
        {name} · sheet {tile.row + 1}.{tile.column + 1} {of}
      </text>
    </g>
  );
}

/** A mat on paper at its true size, sheet by sheet. */
export default function PrintPage() {
  const { id } = useParams();
  const query = useCourses();
  const [paper, setPaper] = useState<Paper>('A4');
  const [way, setWay] = useState<'upright' | 'sideways'>('upright');
  const stored = query.data?.courses.find((one) => String(one.id) === id);
  const course = stored?.course;
  const shapes = useMemo(() => (course ? courseShapes(course) : ''), [course]);
  const sheet = papers[paper];
  const sideways = way === 'sideways';
  const [w, h] = sideways ? [sheet.heightMm, sheet.widthMm] : [sheet.widthMm, sheet.heightMm];
  usePrintRules(
    `@page { size: ${w}mm ${h}mm; margin: 0 } @media print { .sheet { width: ${w}mm !important; height: ${h}mm !important; break-after: page; border: 0 !important } }`,
  );
  if (query.isPending) return <Loading what="the course" />;
  if (!course) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { tiles, columns, rows } = tilesOf(course, paper, sideways);
  return (
    <main className="px-6 py-3.5 print:p-0">
      <header className="mb-3 flex flex-wrap items-center gap-3 print:hidden">
        <BackLink to={`/courses/${id}`} title="Back to the course" />
        <h1 className="text-title font-bold">Print {course.name}</h1>
        <Choice label="Paper" options={['A4', 'Letter'] as const} value={paper} choose={setPaper} />
        <Choice label="Way" options={['upright', 'sideways'] as const} value={way} choose={setWay} />
        <Button main icon={Printer} className="ml-auto" onClick={() => window.print()}>
          Print {tiles.length} {tiles.length === 1 ? 'sheet' : 'sheets'}
        </Button>
      </header>
      <p className="mb-3 text-ink-2 print:hidden">
        {columns} across, {rows} down, at true size: print at 100 %, “no scaling”. Cut along the corner marks;
        neighbouring sheets overlap by {OVERLAP_MM} mm.
      </p>
      <div className="flex flex-wrap gap-4 print:block">
        {tiles.map((tile) => (
          <svg
            key={`${tile.row}.${tile.column}`}
            className="sheet border border-edge bg-white"
            style={{ width: sideways ? '21rem' : '15rem' }}
            viewBox={`0 0 ${w} ${h}`}
            role="img"
            aria-label={`Sheet in row ${tile.row + 1}, column ${tile.column + 1}`}
          >
            <SheetMarks
              w={w}
              h={h}
              tile={tile}
              name={course.name}
              of={`of ${rows} rows and ${columns} columns`}
            />
            <svg
              x={MARGIN_MM}
              y={MARGIN_MM}
              width={tile.widthMm}
              height={tile.heightMm}
              viewBox={`${tile.xMm} ${tile.yMm} ${tile.widthMm} ${tile.heightMm}`}
            >
              <rect
                x={tile.xMm}
                y={tile.yMm}
                width={tile.widthMm}
                height={tile.heightMm}
                fill={course.base.reflectance > 0.6 ? '#ffffff' : surfaceHex(course.base)}
              />
              {/* Made by our own writer from checked numbers and escaped names. */}
              <g dangerouslySetInnerHTML={{ __html: shapes }} />
            </svg>
          </svg>
        ))}
      </div>
    </main>
  );
}
