import { ArrowDown, ArrowUp, Download, Pencil, Plus } from 'lucide-react';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { countOf } from '@vigilum/core/quantity';
import { outOfOrder, skills as shippedSkills } from '@vigilum/core/year';
import type { NewSeries, Series, SeriesPreview, YearPlan } from '@vigilum/contract/types';
import { Button, IconButton } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useRemoval } from '../data/removal.ts';
import { useChange } from '../data/queries.ts';
import { Panel } from '../ui/Panel.tsx';
import { SelectField, TextField } from '../ui/fields.tsx';
import { FileButton } from '../ui/FileButton.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { saveFile } from '../ui/saveFile.ts';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { slugFor } from '../ui/slugFor.ts';
import { usePlan } from './PlanLayout.tsx';
import { Proposer } from './Proposer.tsx';
import { planTouched } from './usePlan.ts';

/** What each lesson of a series lacks before it, by its place. */
function lacksOf(plan: YearPlan, lessons: readonly string[]): Map<number, string[]> {
  const names = new Map([...shippedSkills, ...plan.skills].map(({ id, name }) => [id, name]));
  const order = lessons.map((slug) => ({ lesson: { slug, title: slug } }));
  return new Map(
    outOfOrder(order, plan.lessons, []).map(({ at, needs }) => [
      at,
      needs.map((need) => names.get(need) ?? need),
    ]),
  );
}

function Editor({
  plan,
  begin,
  save,
  close,
  busy,
}: {
  plan: YearPlan;
  begin: NewSeries;
  save: (series: NewSeries) => void;
  close: () => void;
  busy: boolean;
}) {
  const [name, setName] = useState(begin.name);
  const [aim, setAim] = useState(begin.aim);
  const [lessons, setLessons] = useState<readonly string[]>(begin.lessons);
  const lacks = lacksOf(plan, lessons);
  const title = (slug: string) => plan.lessons.find((one) => one.slug === slug)?.title ?? slug;
  const swap = (i: number, j: number) => {
    const next = [...lessons];
    [next[i], next[j]] = [next[j]!, next[i]!];
    setLessons(next);
  };
  return (
    <form
      className="flex flex-col gap-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        save({ name: name.trim(), aim: aim.trim(), lessons: [...lessons] });
      }}
    >
      <TextField label="name" most={80} value={name} change={setName} />
      <TextField label="aim" most={400} value={aim} change={setAim} />
      <ol className="flex flex-col">
        {lessons.map((slug, i) => (
          <li key={slug} className="flex items-center gap-1 border-t border-line-soft">
            <span className="w-6 text-right font-mono text-ink-2">{i + 1}</span>
            <span className="min-w-0 flex-1 pl-1">
              {title(slug)}
              {lacks.has(i) ? (
                <span className="text-brass"> △ before it: {lacks.get(i)!.join(', ')}</span>
              ) : null}
            </span>
            <IconButton
              icon={ArrowUp}
              label={`${title(slug)} earlier`}
              className="px-2"
              disabled={i === 0}
              onClick={() => swap(i, i - 1)}
            />
            <IconButton
              icon={ArrowDown}
              label={`${title(slug)} later`}
              className="px-2"
              disabled={i === lessons.length - 1}
              onClick={() => swap(i, i + 1)}
            />
            <RemoveButton
              title={`${title(slug)} out of the series`}
              onClick={() => setLessons(lessons.filter((one) => one !== slug))}
            />
          </li>
        ))}
      </ol>
      <SelectField
        label="one more lesson"
        value=""
        none="choose …"
        choose={(slug) => setLessons([...lessons, slug])}
        options={plan.lessons
          .filter(({ slug }) => !lessons.includes(slug))
          .map(({ slug, title: word }) => ({ id: slug, name: word }))}
      />
      <div className="flex gap-2">
        <Button main type="submit" disabled={busy || name.trim() === ''}>
          Save the series
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </form>
  );
}

function OneSeries({ plan, series, edit }: { plan: YearPlan; series: Series; edit: () => void }) {
  const remove = useRemoval('series', `${series.name} is removed.`, () => planTouched());
  const hand = useMutation({
    mutationFn: () => api('GET /series/:id/file', { id: series.id }),
    onSuccess: (file) =>
      saveFile(
        `${slugFor(series.name, 'series')}.series.json`,
        'application/json',
        JSON.stringify(file, null, 2),
      ),
    onError: (error) => toast.error(sentenceOf(error)),
  });
  const lacks = lacksOf(plan, series.lessons);
  const minutes = series.lessons.reduce(
    (sum, slug) => sum + (plan.lessons.find((one) => one.slug === slug)?.minutes ?? 0),
    0,
  );
  return (
    <li className="border-t border-line-soft py-2 first:border-t-0">
      <div className="flex items-center gap-2">
        <h3 className="min-w-0 flex-1 font-bold">{series.name}</h3>
        <Button icon={Pencil} onClick={edit}>
          Change
        </Button>
        <IconButton
          icon={Download}
          label={`Hand ${series.name} on as a file`}
          disabled={hand.isPending}
          onClick={() => hand.mutate()}
        />
        <RemoveButton title={`Remove ${series.name}`} onClick={() => void remove(series.id)} />
      </div>
      <p className="text-ink-2">{series.aim}</p>
      <ol className="mt-1 flex flex-wrap gap-1.5">
        {series.lessons.map((slug, i) => {
          const lesson = plan.lessons.find((one) => one.slug === slug);
          return (
            <li
              key={slug}
              className={`rounded-lg border px-2.5 py-1 ${lacks.has(i) ? 'border-brass' : 'border-edge'} bg-sheet`}
              title={lacks.has(i) ? `Comes after: ${lacks.get(i)!.join(', ')}` : undefined}
            >
              <span className="font-mono text-ink-2">{i + 1}</span> {lacks.has(i) ? '△ ' : ''}
              {lesson?.title ?? `${slug} (removed)`}
            </li>
          );
        })}
      </ol>
      <p className="mt-1 text-ink-2">
        {countOf(series.lessons.length, 'lesson')}, {minutes} min
        {lacks.size > 0
          ? `; by itself △ ${countOf(lacks.size, 'lesson')} before what should come first: have another series before it`
          : ''}
        .
      </p>
    </li>
  );
}

const isWords = { new: 'new', same: 'here already', other: 'differs from ours: comes beside it' } as const;

/** What a series file would bring, before anything is taken in. */
function Incoming({
  preview,
  busy,
  take,
  leave,
}: {
  preview: SeriesPreview;
  busy: boolean;
  take: () => void;
  leave: () => void;
}) {
  return (
    <section aria-label="A series from a file" className="mb-2 border-l-4 border-l-sea bg-sea-soft/60 p-3">
      <p className="font-bold">
        {preview.name}
        {preview.from === '' ? '' : `, from ${preview.from}`}
      </p>
      <p className="text-ink-2">{preview.aim}</p>
      <ul className="my-1">
        {preview.lessons.map(({ title, is }) => (
          <li key={title}>
            {title}{' '}
            <span className={is === 'other' ? 'text-brass' : 'text-ink-2'}>
              {is === 'other' ? '△ ' : ''}
              {isWords[is]}
            </span>
          </li>
        ))}
        {preview.skills.map(({ name, is }) => (
          <li key={name}>
            skill: {name} <span className="text-ink-2">{isWords[is]}</span>
          </li>
        ))}
        {preview.kits.map(({ name, is }) => (
          <li key={name}>
            kit: {name} <span className="text-ink-2">{isWords[is]}</span>
          </li>
        ))}
      </ul>
      <div className="flex gap-2">
        <Button main disabled={busy} onClick={take}>
          Take it in
        </Button>
        <Button onClick={leave}>Leave it</Button>
      </div>
    </section>
  );
}

/** Lessons in an order: those that ship, a teacher's own, and what Vigilum proposes. */
export default function SeriesPage() {
  const plan = usePlan();
  const [editing, setEditing] = useState<number | 'new' | null>(null);
  const close = () => setEditing(null);
  const make = useChange(
    (body: NewSeries) => api('POST /series', { body }),
    () => planTouched(),
  );
  const change = useChange(
    ({ id, body }: { id: number; body: NewSeries }) => api('PUT /series/:id', { id, body }),
    () => planTouched(),
  );
  const [incoming, setIncoming] = useState<{ text: string; preview: SeriesPreview } | null>(null);
  const look = async (file: File) => {
    try {
      const text = await file.text();
      const preview = await api('POST /series/imports', { body: { text, take: false } });
      setIncoming({ text, preview });
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  const take = useChange(
    (text: string) => api('POST /series/imports', { body: { text, take: true } }),
    () => planTouched(),
  );
  return (
    <div
      className="grid min-h-0 flex-1 grid-cols-1 gap-3 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)] lg:grid-rows-[minmax(0,1fr)]"
      data-part="Series"
    >
      <Panel
        title="Series"
        aside="lessons in an order"
        footer={
          editing === null ? (
            <>
              <Button icon={Plus} onClick={() => setEditing('new')}>
                A series of our own
              </Button>
              <FileButton
                label="A series as a file"
                accept=".json,application/json"
                take={(file) => void look(file)}
              >
                From a file
              </FileButton>
            </>
          ) : null
        }
      >
        {incoming ? (
          <Incoming
            preview={incoming.preview}
            busy={take.isPending}
            leave={() => setIncoming(null)}
            take={() =>
              take.mutate(incoming.text, {
                onSuccess: ({ name }) => {
                  setIncoming(null);
                  toast.success(`${name} is here.`);
                },
              })
            }
          />
        ) : null}
        {editing === 'new' ? (
          <Editor
            plan={plan}
            begin={{ name: '', aim: '', lessons: [] }}
            busy={make.isPending}
            close={close}
            save={(body) => make.mutate(body, { onSuccess: close })}
          />
        ) : null}
        <ul>
          {plan.series.map((series) =>
            editing === series.id ? (
              <li key={series.id} className="border-t border-line-soft py-2">
                <Editor
                  plan={plan}
                  begin={series}
                  busy={change.isPending}
                  close={close}
                  save={(body) => change.mutate({ id: series.id, body }, { onSuccess: close })}
                />
              </li>
            ) : (
              <OneSeries key={series.id} plan={plan} series={series} edit={() => setEditing(series.id)} />
            ),
          )}
        </ul>
      </Panel>
      <Proposer plan={plan} keep={(body) => make.mutate(body)} keeping={make.isPending} />
    </div>
  );
}
