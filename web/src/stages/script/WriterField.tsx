import { useQuery } from '@tanstack/react-query';
import { useId, useState } from 'react';
import { api } from '../../data/api.ts';
import { keys } from '../../data/keys.ts';
import { useStage } from '../../workspace/context.ts';

/** Who writes, as a nickname: those that this team has used are offered. No name is asked for. */
export function WriterField({ writer, write }: { writer: string; write: (name: string) => void }) {
  const { path } = useStage();
  const list = useId();
  const [asked, setAsked] = useState(false);
  const versions = useQuery({
    enabled: asked,
    queryKey: keys.versions(path.id, path.slug),
    queryFn: () => api('GET /teams/:id/lessons/:slug/script-versions', path),
  });
  const nicknames = new Set(versions.data?.versions.map(({ by }) => by).filter((by) => by !== ''));
  return (
    <label className="flex items-center gap-1.5">
      by
      <input
        className="input min-h-9 w-32"
        aria-label="Who writes"
        placeholder="nickname"
        autoComplete="off"
        list={list}
        maxLength={40}
        value={writer}
        onFocus={() => setAsked(true)}
        onChange={({ target }) => write(target.value)}
      />
      <datalist id={list}>
        {[...nicknames].map((name) => (
          <option key={name} value={name} />
        ))}
      </datalist>
    </label>
  );
}
