import { typedNumber } from '@vigilum/core/quantity';
import { useMemo } from 'react';
import { useForm } from 'react-hook-form';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { countOf } from '@vigilum/core/quantity';
import { kitFaults, type Kit } from '@vigilum/core/sensing';
import { toast } from 'sonner';
import { Labelled } from '../ui/fields.tsx';
import { Button, LinkButton } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange, useKits } from '../data/queries.ts';
import { EarlierStates } from '../saving/EarlierStates.tsx';
import { kitKind } from '../saving/kinds.ts';
import { Sides } from '../saving/Sides.tsx';
import { DocTrouble } from '../saving/Trouble.tsx';
import { saveNow, useDocOf } from '../saving/useDoc.ts';
import { Panel } from '../ui/Panel.tsx';
import { Empty, Failed, Loading } from '../ui/states.tsx';
import { driveFields } from './driveFields.ts';
import { blankKit, formOfKit, kitOfForm, needNotBeSaid, type KitForm } from './kitForm.ts';
import { SensorsFields } from './SensorsFields.tsx';
import { SocketsFields } from './SocketsFields.tsx';
import { BackLink } from '../ui/BackLink.tsx';

/** What the form calls the fields of a kit. */
const words = Object.fromEntries(driveFields.map(({ field, word }) => [field, word]));

function Editor({ start, stored }: { start: KitForm; stored: { kit: Kit; revision: number } | null }) {
  const isNew = stored === null;
  const navigate = useNavigate();
  const form = useForm<KitForm>({
    values: start,
    resetOptions: { keepDirtyValues: true },
    mode: 'onTouched',
  });
  const { register, handleSubmit, formState, watch, reset } = form;
  const { errors, isDirty } = formState;
  const now = watch();
  const faults = kitFaults(kitOfForm(now));
  const add = useChange(
    (kit: Kit) => api('POST /kits', { body: kit }),
    ({ slug }) => [{ what: 'kit', kit: slug }],
  );
  const doc = useDocOf(
    kitKind,
    stored && { slug: stored.kit.slug },
    stored && { revision: stored.revision, value: stored.kit },
  );
  const submit = handleSubmit(async (filled) => {
    const kit = kitOfForm(filled);
    const done = doc
      ? await saveNow(doc, kit)
      : await add.mutateAsync(kit).then(
          () => true,
          () => false,
        );
    if (!done) return;
    toast('Saved.');
    reset(filled);
    if (isNew) void navigate(`/kits/${filled.slug.trim()}`, { replace: true });
  });
  const take = (value: unknown) => reset(formOfKit(value as Kit), { keepDefaultValues: true });
  const first = Object.keys(errors)[0];
  return (
    <form onSubmit={(event) => void submit(event)} noValidate className="flex flex-col gap-4">
      <div className="sticky top-0 z-10 -mx-6 flex flex-wrap items-center gap-3 border-b border-line bg-paper px-6 py-2 max-sm:-mx-3 max-sm:px-3">
        <BackLink to="/kits" title="Back to the kits" />
        <h1 className="mr-auto text-title font-bold">{isNew ? 'New kit' : `Kit ${now.name}`}</h1>
        {faults.length > 0 || first ? (
          <span role="alert" className="font-semibold text-fault">
            ✕ {faults[0] ? faults[0].says : 'Look at the marked fields'}.
          </span>
        ) : null}
        {doc ? (
          <EarlierStates
            of="kit"
            id={doc.id.slug}
            show={(value) => countOf((value as Kit).sensors.length, 'sensor')}
            restore={take}
          />
        ) : null}
        <Button disabled={!isDirty} onClick={() => reset()}>
          Put it back
        </Button>
        <Button
          main
          type="submit"
          disabled={
            (!isDirty && !isNew) || faults.length > 0 || add.isPending || doc?.state.phase === 'saving'
          }
        >
          {isNew ? 'Add the kit' : 'Save the kit'}
        </Button>
      </div>
      {doc ? (
        <DocTrouble
          doc={doc}
          chosen={(value, side) => reset(side === 'theirs' ? formOfKit(value) : now)}
          what="this kit"
          sides={(mine, theirs) => <Sides mine={mine} theirs={theirs} words={words} />}
        />
      ) : null}
      <div className="grid grid-cols-1 gap-4 xl:grid-cols-2">
        <Panel title="The kit">
          <div className="grid grid-cols-1 gap-3 sm:grid-cols-2">
            <Labelled label="name">
              <input
                className="input w-full"
                maxLength={80}
                autoComplete="off"
                aria-invalid={!!errors.name}
                {...register('name', { validate: (t) => t.trim() !== '' || 'A kit needs a name.' })}
              />
              {errors.name ? <span className="text-fault">{errors.name.message}</span> : null}
            </Labelled>
            <Labelled label="short name, for files">
              <input
                className="input w-full font-mono"
                maxLength={40}
                autoComplete="off"
                readOnly={!isNew}
                aria-invalid={!!errors.slug}
                {...register('slug', {
                  validate: (t) =>
                    /^[a-z0-9-]{1,40}$/.test(t.trim()) || 'Lower-case letters, digits and dashes.',
                })}
              />
              {errors.slug ? <span className="text-fault">{errors.slug.message}</span> : null}
            </Labelled>
            {driveFields.map(({ field: key, word, says, least, most }) => (
              <label key={key} className="flex flex-col">
                <span className="font-semibold">{word}</span>
                <span className="mb-1 text-ink-2">{says}</span>
                <input
                  className="input mt-auto w-full font-mono"
                  inputMode="decimal"
                  aria-invalid={!!errors[key]}
                  {...register(key, {
                    validate: (t) =>
                      (needNotBeSaid.some((field) => field === key) && t.trim() === '') ||
                      (typedNumber(t) >= least && typedNumber(t) <= most) ||
                      `From ${least} to ${most}.`,
                  })}
                />
                {errors[key] ? <span className="text-fault">{errors[key]?.message}</span> : null}
              </label>
            ))}
            <Labelled label="when a program is over, the motors">
              <select className="input w-full" {...register('atEnd')}>
                <option value="stop">stop at once</option>
                <option value="roll">go on, then stop</option>
              </select>
            </Labelled>
            {now.atEnd === 'roll' ? (
              <Labelled label="go on for, ms">
                <input
                  className="input w-full font-mono"
                  inputMode="decimal"
                  aria-invalid={!!errors.rollMs}
                  {...register('rollMs', {
                    validate: (t) => (typedNumber(t) >= 0 && typedNumber(t) <= 60_000) || 'From 0 to 60000.',
                  })}
                />
                {errors.rollMs ? <span className="text-fault">{errors.rollMs.message}</span> : null}
              </Labelled>
            ) : null}
          </div>
        </Panel>
        <SocketsFields form={form} />
      </div>
      <SensorsFields form={form} />
    </form>
  );
}

/** One kit as data: sockets with the teacher's labels, sensors with their modes, motors, timing. */
export default function KitPage() {
  const { slug = '' } = useParams();
  const [params] = useSearchParams();
  const query = useKits();
  const isNew = slug === 'new';
  const from = isNew ? params.get('copy') : slug;
  const stored = query.data?.kits.find(({ kit: { slug: s } }) => s === from);
  const kit = stored?.kit;
  const start = useMemo(() => {
    if (!kit) return blankKit;
    const form = formOfKit(kit);
    return isNew ? { ...form, slug: '', name: `${kit.name}, changed` } : form;
  }, [kit, isNew]);
  if (query.isPending) return <Loading what="the kit" />;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  return (
    <main className="flex flex-1 flex-col px-6 pb-6 max-sm:px-3">
      {kit || isNew ? (
        <Editor key={slug} start={start} stored={isNew || !stored ? null : stored} />
      ) : (
        <>
          <h1 className="py-3.5 text-title font-bold">Kit</h1>
          <Empty title="There is no such kit here.">
            <LinkButton main to="/kits">
              All kits
            </LinkButton>
          </Empty>
        </>
      )}
    </main>
  );
}
