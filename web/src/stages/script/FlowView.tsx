import { Download } from 'lucide-react';
import { useId, useMemo, useRef, useState } from 'react';
import { type Program } from '@vigilum/core/script';
import { flowOf, mermaidOf, readAloud } from '@vigilum/core/editing';
import { Button } from '../../ui/Button.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { saveFile } from '../../ui/saveFile.ts';
import { layFlow, type PlacedFlow, type PlacedNode } from './flowLayout.ts';

function shape({ kind, x, y, width: w, height: h }: PlacedNode): string {
  const [l, r, t, b] = [x - w / 2, x + w / 2, y - h / 2, y + h / 2];
  if (kind === 'ask') {
    const tip = 18;
    return `M${l + tip} ${t}H${r - tip}L${r} ${y}L${r - tip} ${b}H${l + tip}L${l} ${y}Z`;
  }
  const k = kind === 'step' ? 6 : h / 2;
  return `M${l + k} ${t}H${r - k}A${k} ${k} 0 0 1 ${r} ${t + k}V${b - k}A${k} ${k} 0 0 1 ${r - k} ${b}H${l + k}A${k} ${k} 0 0 1 ${l} ${b - k}V${t + k}A${k} ${k} 0 0 1 ${l + k} ${t}Z`;
}

/** The diagram drawn: questions pointed at both ends, the way back to the top of a repeat included. */
function Diagram({ flow, goTo }: { flow: PlacedFlow; goTo: (line: number) => void }) {
  const arrow = useId();
  return (
    <svg
      xmlns="http://www.w3.org/2000/svg"
      viewBox={`0 0 ${flow.width} ${flow.height}`}
      style={{ width: '100%', maxWidth: flow.width, minWidth: flow.width * 0.7 }}
      role="img"
      aria-label="Flow diagram of the script"
      fontFamily="var(--font-mono), monospace"
      fontSize={15}
    >
      <defs>
        <marker
          id={arrow}
          viewBox="0 0 10 10"
          refX="9"
          refY="5"
          markerWidth="9"
          markerHeight="9"
          orient="auto"
        >
          <path d="M0 0L10 5L0 10Z" fill="var(--ink-2, #55626C)" />
        </marker>
      </defs>
      {flow.edges.map(({ points, label, labelAt }, i) => (
        <g key={i}>
          <polyline
            points={points.map(({ x, y }) => `${x},${y}`).join(' ')}
            fill="none"
            stroke="var(--ink-2, #55626C)"
            strokeWidth={1.6}
            markerEnd={`url(#${arrow})`}
          />
          {labelAt ? (
            <g>
              <rect
                x={labelAt.x - 16}
                y={labelAt.y - 10}
                width={32}
                height={20}
                rx={4}
                fill="var(--sheet, #FCFAF5)"
              />
              <text
                x={labelAt.x}
                y={labelAt.y + 5}
                textAnchor="middle"
                fill="var(--ink, #17232D)"
                fontSize={14}
              >
                {label}
              </text>
            </g>
          ) : null}
        </g>
      ))}
      {flow.nodes.map((node) => (
        <g
          key={node.id}
          onClick={() => node.line > 0 && goTo(node.line)}
          style={node.line > 0 ? { cursor: 'pointer' } : undefined}
        >
          <path
            d={shape(node)}
            fill={
              node.kind === 'ask'
                ? 'var(--brass-soft, #F3E8D2)'
                : node.kind === 'step'
                  ? 'var(--paper, #F4F0E7)'
                  : 'var(--sea-soft, #E1ECEA)'
            }
            stroke={node.kind === 'ask' ? 'var(--brass, #8A5F1A)' : 'var(--edge, #8a8577)'}
            strokeWidth={1.4}
          />
          <text x={node.x} y={node.y + 5} textAnchor="middle" fill="var(--ink, #17232D)">
            {node.text}
          </text>
          {node.waits ? (
            <g>
              <path
                d={`M${node.x + node.width / 2 - 8} ${node.y - 12}h32v24h-30`}
                fill="none"
                stroke="var(--ink-2, #55626C)"
                strokeWidth={1.6}
                markerEnd={`url(#${arrow})`}
              />
              <text x={node.x + node.width / 2 + 30} y={node.y + 5} fill="var(--ink, #17232D)" fontSize={14}>
                no
              </text>
            </g>
          ) : null}
        </g>
      ))}
    </svg>
  );
}

/** The script told another way: as a flow diagram, or as numbered sentences to read aloud. */
export function FlowView({
  program,
  goTo,
  title,
}: {
  program: Program;
  goTo: (line: number) => void;
  title: string;
}) {
  const [way, setWay] = useState<'sentences' | 'diagram'>('diagram');
  const box = useRef<HTMLDivElement>(null);
  const flow = useMemo(() => layFlow(flowOf(program)), [program]);
  const sentences = useMemo(() => readAloud(program), [program]);
  const [said, setSaid] = useState('');
  const name = title.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '-');
  const written = sentences
    .map(({ number, depth, text }) => `${'  '.repeat(depth)}${number && `${number}. `}${text}`)
    .join('\n');
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-2">
      <div className="flex flex-wrap items-center gap-2">
        <Choice
          label="Told as"
          options={['diagram', 'sentences']}
          words={{ diagram: 'Diagram', sentences: 'Read aloud' }}
          value={way}
          choose={setWay}
        />
        {way === 'diagram' ? (
          <>
            <Button
              icon={Download}
              onClick={() => saveFile(`${name}.mmd`, 'text/vnd.mermaid', mermaidOf(program))}
            >
              Mermaid text
            </Button>
            <Button
              icon={Download}
              onClick={() => {
                const drawn = box.current?.querySelector('svg')?.outerHTML;
                if (drawn) saveFile(`${name}.svg`, 'image/svg+xml', withColours(drawn));
              }}
            >
              SVG picture
            </Button>
          </>
        ) : (
          <>
            <Button
              onClick={() =>
                void navigator.clipboard
                  .writeText(written)
                  .then(() => setSaid('Copied.'))
                  .catch(() => setSaid('This browser does not let the page copy. Save the file instead.'))
              }
            >
              Copy the sentences
            </Button>
            <Button icon={Download} onClick={() => saveFile(`${name}.txt`, 'text/plain', `${written}\n`)}>
              Text file
            </Button>
            <span role="status" className="text-ink-2">
              {said}
            </span>
          </>
        )}
      </div>
      <div
        ref={box}
        className="min-h-0 flex-1 overflow-auto rounded-lg border border-edge"
        tabIndex={0}
        role="region"
        aria-label="Script told"
      >
        {sentences.length === 0 ? (
          <p className="p-4">There is no step yet: write one and it is drawn here.</p>
        ) : way === 'diagram' ? (
          <div className="flex justify-center">
            <Diagram flow={flow} goTo={goTo} />
          </div>
        ) : (
          <ol className="p-4 text-lg leading-8">
            {sentences.map(({ number, depth, line, text }) => (
              <li key={line} className="flex gap-3" style={{ paddingLeft: `${depth * 1.75}rem` }}>
                {number ? <span className="shrink-0 font-mono text-ink-2">{number}.</span> : null}
                <span className={number ? '' : 'mt-2 font-bold'}>{text}</span>
              </li>
            ))}
          </ol>
        )}
      </div>
    </div>
  );
}

/** A picture that stands alone: the page's colours are written out. */
function withColours(svg: string): string {
  const style = getComputedStyle(document.documentElement);
  return svg
    .replace(/ style="width[^"]*"/, '')
    .replace(/var\((--[\w-]+), ([^)]+)\)/g, (_, name: string, usual: string) => {
      const value = style.getPropertyValue(name).trim();
      return name.startsWith('--font') ? 'monospace' : value || usual;
    });
}
