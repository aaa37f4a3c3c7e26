import { useQuery } from '@tanstack/react-query';
import { diffLines } from 'diff';
import { useState } from 'react';
import { lessonDifferences } from '@vigilum/core/lesson';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { Panel } from '../ui/Panel.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { ago, useNow } from '../ui/time.ts';
import { useBuilder } from './BuilderLayout.tsx';

/** Lines that went and lines that came. */
function Lines({ before, after }: { before: string; after: string }) {
  return (
    <pre className="max-h-72 overflow-auto rounded-lg border border-line p-2 font-mono leading-6 whitespace-pre-wrap">
      {diffLines(before, after).map(({ value, added, removed }, i) => (
        <span
          key={i}
          className={
            added
              ? 'bg-done-soft text-done'
              : removed
                ? 'bg-signal-soft text-fault line-through'
                : 'text-ink-2'
          }
        >
          {value
            .replace(/\n$/, '')
            .split('\n')
            .map((line) => `${added ? '+ ' : removed ? '− ' : '  '}${line}`)
            .join('\n')}
          {'\n'}
        </span>
      ))}
    </pre>
  );
}

/** Every version of a lesson; one is compared with what it is now, and brought back. */
export default function VersionsView() {
  const { lesson, change } = useBuilder();
  const now = useNow(30_000);
  const { slug } = lesson;
  const versions = useQuery({
    queryKey: keys.lessonVersions(slug),
    queryFn: () => api('GET /lessons/:slug/versions', { slug }),
    staleTime: 0,
  });
  const [chosen, setChosen] = useState<number | null>(null);
  const older = useQuery({
    enabled: chosen !== null,
    queryKey: keys.lessonVersion(slug, chosen),
    queryFn: () => api('GET /lessons/:slug/versions/:version', { slug, version: chosen ?? 0 }),
    // The newest one goes on with the sitting that it was made in.
    staleTime: 0,
  });
  if (versions.isPending) return <Loading what="the versions" />;
  if (versions.isError) return <Failed error={versions.error} again={() => void versions.refetch()} />;
  const list = versions.data.versions;
  const differences = older.data ? lessonDifferences(older.data.lesson, lesson) : [];
  return (
    <div className="grid min-h-0 flex-1 gap-4 lg:grid-cols-[20rem_minmax(0,1fr)] lg:grid-rows-[minmax(0,1fr)]">
      <Panel scrolls title="Versions" aside="newest first">
        {list.length === 0 ? (
          <p className="text-ink-2">
            It was never changed here. Every change makes a version, and none is lost.
          </p>
        ) : (
          <ol className="flex flex-col gap-1">
            {list.map(({ version, note, at }) => (
              <li key={version}>
                <button
                  type="button"
                  aria-pressed={version === chosen}
                  className={`min-h-11 w-full rounded-lg px-3 py-1.5 text-left ${version === chosen ? 'bg-sea-soft font-bold text-sea' : 'hover:bg-line-soft'}`}
                  onClick={() => setChosen(version)}
                >
                  {version}. {note || ago(at, now)}
                  {note ? <span className="block font-normal text-ink-2">{ago(at, now)}</span> : null}
                </button>
              </li>
            ))}
          </ol>
        )}
      </Panel>
      <Panel
        scrolls
        title={chosen === null ? 'Choose a version' : `Version ${chosen} and now`}
        footer={
          older.data && differences.length > 0 ? (
            <Button main onClick={() => change({ ...older.data.lesson, slug: lesson.slug })}>
              Bring version {chosen} back
            </Button>
          ) : null
        }
      >
        {chosen === null ? (
          <p className="text-ink-2">
            It is compared with the lesson as it stands now, and can be brought back.
          </p>
        ) : older.isPending ? (
          <Loading what="the version" />
        ) : differences.length === 0 ? (
          <p>Nothing differs from the lesson as it is now.</p>
        ) : (
          <ul className="flex flex-col gap-3">
            {differences.map(({ where, says, before, after }, i) => (
              <li key={i}>
                <h3 className="font-bold">
                  {where}: {says}
                </h3>
                <Lines before={before} after={after} />
              </li>
            ))}
          </ul>
        )}
      </Panel>
    </div>
  );
}
