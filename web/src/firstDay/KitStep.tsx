import { useState } from 'react';
import { kitLike, partsBeside, sensorWords, type Kit, type SensorSpec } from '@vigilum/core/sensing';
import { Labelled } from '../ui/fields.tsx';
import { Button, LinkButton } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange } from '../data/queries.ts';
import { CheckBox } from '../ui/CheckBox.tsx';
import { slugFor } from '../ui/slugFor.ts';

const measures = ({ modes }: SensorSpec): string => modes.map(({ kind }) => sensorWords[kind]).join(', ');

/** A kit of one’s own: the same as one that is known, but for its name, its parts and its sockets. */
function OwnKit({ kits, take }: { kits: readonly Kit[]; take: (slug: string) => void }) {
  const [likeSlug, setLike] = useState(kits[0]?.slug ?? '');
  const like = kits.find(({ slug }) => slug === likeSlug) ?? kits[0];
  const [name, setName] = useState('');
  const [without, setWithout] = useState<readonly string[]>([]);
  const [besides, setBesides] = useState<readonly string[]>([]);
  const [sockets, setSockets] = useState<string | null>(null);
  const [touched, setTouched] = useState(false);
  const add = useChange(
    (kit: Kit) => api('POST /kits', { body: kit }),
    ({ slug }) => [{ what: 'kit', kit: slug }],
  );
  if (!like) return null;
  const more = partsBeside(like);
  const usual = like.sockets.filter(({ takes }) => takes === 'sensor').map((socket) => socket.name);
  const wish = {
    slug: slugFor(name, 'kit', 40),
    name,
    parts: [
      ...like.sensors.filter(({ id }) => !without.includes(id)),
      ...more.filter(({ id }) => besides.includes(id)),
    ],
    sockets: sockets ?? usual.join(' '),
  };
  const made = kitLike(like, wish);
  const toggled = (list: readonly string[], id: string) =>
    list.includes(id) ? list.filter((one) => one !== id) : [...list, id];
  const part = (spec: SensorSpec, ticked: boolean, change: () => void) => (
    <CheckBox key={spec.id} checked={ticked} change={change}>
      <span>
        <strong>{spec.name}</strong> <span className="text-ink-2">{measures(spec)}</span>
      </span>
    </CheckBox>
  );
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        setTouched(true);
        if (made.ok)
          void add.mutateAsync(made.value).then(
            ({ slug }) => take(slug),
            () => undefined,
          );
      }}
    >
      <div className="flex flex-wrap gap-3">
        <Labelled label="name of your kit" className="min-w-56 flex-1">
          <input
            className="input w-full"
            maxLength={80}
            autoComplete="off"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </Labelled>
        <Labelled label="the same as">
          <select
            className="input w-44"
            value={like.slug}
            onChange={(event) => {
              setLike(event.target.value);
              setWithout([]);
              setBesides([]);
              setSockets(null);
            }}
          >
            {kits.map((kit) => (
              <option key={kit.slug} value={kit.slug}>
                {kit.name}
              </option>
            ))}
          </select>
        </Labelled>
        <Labelled label="but its sockets for sensors are called" className="min-w-56 flex-1">
          <input
            className="input w-full font-mono"
            maxLength={200}
            autoComplete="off"
            value={wish.sockets}
            onChange={(event) => setSockets(event.target.value)}
          />
        </Labelled>
      </div>
      <fieldset>
        <legend className="text-ink-2">and it has these sensors</legend>
        <div className="grid gap-x-6 sm:grid-cols-2">
          {like.sensors.map((spec) =>
            part(spec, !without.includes(spec.id), () => setWithout(toggled(without, spec.id))),
          )}
          {more.map((spec) =>
            part(spec, besides.includes(spec.id), () => setBesides(toggled(besides, spec.id))),
          )}
        </div>
      </fieldset>
      {touched && !made.ok ? (
        <p role="alert" className="text-fault">
          {made.says} {made.mend}
        </p>
      ) : null}
      <div className="flex flex-wrap items-center gap-3">
        <Button main type="submit" disabled={add.isPending}>
          Add this kit
        </Button>
        <span className="text-ink-2">
          Motors, ranges and times are those of the {like.name}; each can be changed on the kit’s page at any
          time.
        </span>
      </div>
    </form>
  );
}

/** Which kit the school has: one that is known, or one of its own. */
export function KitStep({ kits, take }: { kits: readonly Kit[]; take: (slug: string) => void }) {
  const [own, setOwn] = useState(false);
  return (
    <div className="flex flex-col gap-3">
      <div className="flex flex-wrap gap-2">
        {kits.map(({ slug, name }) => (
          <Button key={slug} onClick={() => take(slug)}>
            We have the {name}
          </Button>
        ))}
        <Button aria-expanded={own} onClick={() => setOwn(!own)}>
          The same as one of these, but …
        </Button>
        <LinkButton to="/kits/new">One from nothing</LinkButton>
      </div>
      {own ? <OwnKit kits={kits} take={take} /> : null}
    </div>
  );
}
