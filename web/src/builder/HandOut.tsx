import { useQuery } from '@tanstack/react-query';
import { Shuffle } from 'lucide-react';
import { useState } from 'react';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { useChange, useToday } from '../data/queries.ts';
import { VerdictMark } from '../ui/verdict.tsx';
import { useBuilder } from './BuilderLayout.tsx';
import { NumberText } from './twistFields.tsx';

/** Draws every team's numbers, has each model answer judged, and hands them out. */
export function HandOut({ ready }: { ready: boolean }) {
  const { lesson, saving } = useBuilder();
  const today = useToday();
  const classes = [
    ...new Map((today.data?.periods ?? []).map(({ class: own }) => [own.id, own] as const)).values(),
  ];
  const [chosen, setChosen] = useState<number | null>(null);
  const klass = classes.find(({ id }) => id === chosen) ?? classes[0];
  const [seed, setSeed] = useState(1);
  const [level, setLevel] = useState(0);
  const variants = useQuery({
    enabled: klass !== undefined,
    queryKey: keys.variants(lesson.slug, klass?.id ?? 0),
    queryFn: () => api('GET /lessons/:slug/variants/:class', { slug: lesson.slug, class: klass!.id }),
  });
  const hand = useChange(
    (_: void) =>
      api('POST /lessons/:slug/variants', { slug: lesson.slug, body: { classId: klass!.id, seed, level } }),
    () => [{ what: 'class', class: klass!.id, part: 'variants' }],
  );
  const back = useChange(
    (_: void) => api('DELETE /lessons/:slug/variants/:class', { slug: lesson.slug, class: klass!.id }),
    () => [{ what: 'class', class: klass!.id, part: 'variants' }],
  );
  const levels = lesson.twist?.levels ?? [];
  if (!klass)
    return <p className="text-ink-2">No class meets today. Start a period, then hand the twist out.</p>;
  const handed = (variants.data?.variants ?? []).some(({ values }) => values !== null);
  return (
    <div className="flex flex-col gap-3">
      <div className="flex flex-wrap items-end gap-3">
        <Labelled label="class">
          <select
            className="input h-11 w-auto"
            value={klass.id}
            onChange={(event) => setChosen(Number(event.target.value))}
          >
            {classes.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </Labelled>
        <NumberText label="seed" value={seed} change={(value) => setSeed(Math.round(value) | 0)} />
        {levels.length > 0 ? (
          <Labelled label="level">
            <select
              className="input h-11 w-auto"
              value={level}
              onChange={(event) => setLevel(Number(event.target.value))}
            >
              <option value={0}>all ranges</option>
              {levels.map(({ says }, i) => (
                <option key={i} value={i + 1}>
                  {i + 1}: {says}
                </option>
              ))}
            </select>
          </Labelled>
        ) : null}
        <Button
          main
          icon={Shuffle}
          disabled={!ready || saving.phase !== 'idle' || hand.isPending}
          onClick={() => hand.mutate(undefined)}
        >
          {hand.isPending ? 'Proving every variant …' : 'Prove and hand out'}
        </Button>
        {handed ? <Button onClick={() => back.mutate(undefined)}>Take all back</Button> : null}
      </div>
      <table className="w-full">
        <thead>
          <tr className="text-left text-ink-2">
            <th className="py-1 pr-3 font-normal">team</th>
            <th className="py-1 pr-3 font-normal">its own values</th>
            <th className="py-1 font-normal">model answer</th>
          </tr>
        </thead>
        <tbody>
          {(variants.data?.variants ?? []).map(({ team, says, proof, level: own }) => (
            <tr key={team.id} className="border-t border-line-soft">
              <th scope="row" className="py-1.5 pr-3 text-left font-bold">
                {team.name}
              </th>
              <td className="py-1.5 pr-3">
                {says || <span className="text-ink-2">as the lesson usually is</span>}
                {own ? <span className="text-ink-2"> · level {own}</span> : null}
              </td>
              <td className="py-1.5 whitespace-nowrap">
                {proof ? (
                  <span className="flex items-center gap-1.5">
                    <VerdictMark tone={proof.verdict === 'proved' ? 'done' : 'fault'} />
                    {proof.verdict} {proof.passes}/{proof.runs}
                  </span>
                ) : null}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
