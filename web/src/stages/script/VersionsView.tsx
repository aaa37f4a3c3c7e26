import { useQuery } from '@tanstack/react-query';
import { diffLines } from 'diff';
import { RotateCcw } from 'lucide-react';
import { useMemo, useState } from 'react';
import { countOf } from '@vigilum/core/quantity';
import { Button } from '../../ui/Button.tsx';
import { api } from '../../data/api.ts';
import { keys } from '../../data/keys.ts';
import { Failed, Loading } from '../../ui/states.tsx';
import { ago, useNow } from '../../ui/time.ts';

type Where = { id: number; slug: string };

const useVersions = (path: Where) =>
  useQuery({
    queryKey: keys.versions(path.id, path.slug),
    queryFn: () => api('GET /teams/:id/lessons/:slug/script-versions', path),
    staleTime: 0,
  });

const useVersionText = (path: Where, version: number | null) =>
  useQuery({
    queryKey: keys.version(path.id, path.slug, version),
    queryFn: () =>
      api('GET /teams/:id/lessons/:slug/script-versions/:version', { ...path, version: version ?? 0 }),
    enabled: version !== null,
    staleTime: Infinity,
  });

/** Two texts line by line: what went, what came, what stayed. */
function Compared({ from, to }: { from: string; to: string }) {
  const parts = useMemo(() => diffLines(from, to), [from, to]);
  const same = parts.every(({ added, removed }) => !added && !removed);
  if (same) return <p className="p-3">Both say the same.</p>;
  return (
    <pre className="m-0 font-mono text-base leading-7">
      {parts.flatMap((part, i) => {
        const [sign, look, word] = part.added
          ? ['+', 'bg-done-soft', 'came']
          : part.removed
            ? ['−', 'bg-fault-soft', 'went']
            : [' ', '', ''];
        return part.value
          .replace(/\n$/, '')
          .split('\n')
          .map((line, j) => (
            <span key={`${i}.${j}`} className={`block px-3 ${look}`}>
              <span aria-hidden="true">{sign} </span>
              {word ? <span className="sr-only">{word}: </span> : null}
              {line || ' '}
            </span>
          ));
      })}
    </pre>
  );
}

/** All versions of the script: who, when, what changed, and the way back to any of them. */
export function VersionsView({
  path,
  text,
  skew,
  restore,
}: {
  path: Where;
  /** What is in the editor now. */
  text: string;
  skew: number;
  restore: (version: number, text: string) => void;
}) {
  const query = useVersions(path);
  const now = useNow(15_000) + skew;
  const [picked, setPicked] = useState<number | null>(null);
  const [against, setAgainst] = useState<number | 'now'>('now');
  const versions = query.data?.versions ?? [];
  const chosen = picked ?? versions[1]?.version ?? versions[0]?.version ?? null;
  const first = useVersionText(path, chosen);
  const second = useVersionText(path, against === 'now' ? null : against);
  if (query.isPending) return <Loading what="the versions" />;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  if (versions.length === 0) return <p>Nothing is saved yet. Every save becomes a version here.</p>;
  const other = against === 'now' ? text : second.data?.text;
  return (
    <div className="grid min-h-0 flex-1 gap-4 md:grid-cols-[17rem_minmax(0,1fr)]">
      <ul aria-label="Versions" className="max-h-72 overflow-y-auto md:max-h-none">
        {versions.map(({ version, at, by, restoredFrom, steps, tries }) => (
          <li key={version}>
            <button
              type="button"
              aria-pressed={version === chosen}
              className={`flex min-h-11 w-full flex-col rounded-lg px-3 py-1.5 text-left ${version === chosen ? 'bg-sea-soft' : 'hover:bg-paper'}`}
              onClick={() => setPicked(version)}
            >
              <span className="flex w-full items-baseline gap-2">
                <b className={version === chosen ? 'text-sea' : ''}>Version {version}</b>
                <span className="ml-auto text-sm text-ink-2">{ago(at, now)}</span>
              </span>
              <span className="text-sm text-ink-2">
                {by || 'nobody named'} · {countOf(steps, 'step')}
                {tries > 0 ? ` · tried ${tries === 1 ? 'once' : `${tries} times`}` : ''}
                {restoredFrom === null ? '' : ` · brought back ${restoredFrom}`}
              </span>
            </button>
          </li>
        ))}
      </ul>
      <div className="flex min-h-0 min-w-0 flex-col gap-2">
        <div className="flex flex-wrap items-center gap-2">
          <label className="flex flex-wrap items-center gap-2">
            From version {chosen} to
            <select
              className="input w-auto"
              value={against}
              onChange={({ target }) => setAgainst(target.value === 'now' ? 'now' : Number(target.value))}
            >
              <option value="now">what is in the editor</option>
              {versions.map(({ version }) => (
                <option key={version} value={version}>
                  version {version}
                </option>
              ))}
            </select>
          </label>
          <Button
            main
            icon={RotateCcw}
            className="ml-auto"
            disabled={!first.data || first.data.text === text}
            onClick={() => first.data && chosen !== null && restore(chosen, first.data.text)}
          >
            Bring back version {chosen}
          </Button>
        </div>
        <div
          className="min-h-40 flex-1 overflow-auto rounded-lg border border-edge py-2"
          tabIndex={0}
          role="region"
          aria-label="What changed"
        >
          {first.data && other !== undefined ? (
            <Compared from={first.data.text} to={other} />
          ) : (
            <Loading what="the texts" />
          )}
        </div>
      </div>
    </div>
  );
}
