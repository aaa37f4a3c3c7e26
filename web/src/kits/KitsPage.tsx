import { Copy, Download, Languages, Pencil, Plus, Trash2 } from 'lucide-react';
import { Link, useNavigate } from 'react-router';
import { countOf } from '@vigilum/core/quantity';
import { fitOf, sensorKinds, sensorWords, type Fit, type Kit } from '@vigilum/core/sensing';
import { toast } from 'sonner';
import { Button, LinkButton } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange, useKits } from '../data/queries.ts';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { useRemoval } from '../data/removal.ts';
import { FileButton } from '../ui/FileButton.tsx';
import { Panel } from '../ui/Panel.tsx';
import { saveFile } from '../ui/saveFile.ts';
import { Empty, Failed, Loading } from '../ui/states.tsx';
import { VerdictMark, type Tone } from '../ui/verdict.tsx';
import { TableHead } from '../ui/TableHead.tsx';

const MOST_BYTES = 300_000;
const tones: Record<Fit['way'], Tone> = { 'as asked': 'done', 'stands in': 'risk', missing: 'fault' };

function FitCell({ fit }: { fit: Fit }) {
  return (
    <td className="py-2 pr-6 align-top">
      <span className="flex items-start gap-2">
        <span className="pt-0.5">
          <VerdictMark tone={tones[fit.way]} />
        </span>
        <span>
          <strong>
            {fit.way === 'as asked'
              ? fit.by!.part
              : fit.way === 'stands in'
                ? `${fit.by!.part} stands in, by ${sensorWords[fit.by!.kind]}`
                : 'nothing'}
          </strong>
          {fit.loses ? <span className="block text-ink-2">{fit.loses}</span> : null}
        </span>
      </span>
    </td>
  );
}

function KitCard({ kit, robots }: { kit: Kit; robots: number }) {
  const remove = useRemoval('kits', `${kit.name} removed.`, () => [{ what: 'kit', kit: kit.slug }]);
  const modes = kit.sensors.flatMap((s) => s.modes);
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-2 border-t border-line-soft py-2 first:border-t-0">
      <div className="min-w-56 flex-1">
        <Link
          to={`/kits/${kit.slug}`}
          className="inline-block min-h-11 content-center text-lg font-bold text-sea underline"
        >
          {kit.name}
        </Link>
        <span className="block text-ink-2">
          {countOf(kit.sockets.filter(({ takes }) => takes === 'sensor').length, 'sensor socket')},{' '}
          {countOf(kit.sensors.length, 'sensor')} with {countOf(modes.length, 'mode')}, step {kit.stepTimeMs}{' '}
          ms,{' '}
          {kit.atProgramEnd.kind === 'stop'
            ? 'stops at the end of a program'
            : `rolls on ${kit.atProgramEnd.forMs} ms at the end`}
          ; {countOf(robots, 'robot')}
        </span>
      </div>
      <div className="flex flex-wrap gap-2">
        <LinkButton icon={Pencil} to={`/kits/${kit.slug}`}>
          Change
        </LinkButton>
        <LinkButton icon={Languages} to={`/kits/${kit.slug}/phrasebook`}>
          Phrasebook
        </LinkButton>
        <LinkButton icon={Copy} to={`/kits/new?copy=${kit.slug}`}>
          Copy
        </LinkButton>
        <Button
          icon={Download}
          onClick={() =>
            saveFile(`${kit.slug}.kit.json`, 'application/json', `${JSON.stringify(kit, null, 2)}\n`)
          }
        >
          Save as JSON
        </Button>
        <Button
          icon={Trash2}
          disabled={robots > 0}
          title={robots > 0 ? 'Robots are built from it' : `Remove ${kit.name}`}
          onClick={() => void remove(kit.slug)}
        >
          Remove
        </Button>
      </div>
    </li>
  );
}

/** The kits of the cupboard, what each can do, what stands in for what, and what is lost by it. */
export default function KitsPage() {
  const query = useKits();
  const navigate = useNavigate();
  const add = useChange(
    (kit: Kit) => api('POST /kits', { body: kit }),
    ({ slug }) => [{ what: 'kit', kit: slug }],
  );
  if (query.isPending) return <Loading what="the kits" />;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { kits, needs } = query.data;
  const take = async (chosen: File) => {
    if (chosen.size > MOST_BYTES)
      return void toast.error('Nothing was added: a kit file has at most 300 kB.');
    let kit: Kit;
    try {
      // Whatever it holds: the server checks it against the contract.
      kit = JSON.parse(await chosen.text()) as Kit;
    } catch {
      return void toast.error(`Nothing was added: ${chosen.name} is no JSON file.`);
    }
    const known = kits.find(({ kit: { slug } }) => slug === kit.slug);
    if (!known) return add.mutate(kit, { onSuccess: ({ slug }) => void navigate(`/kits/${slug}`) });
    toast(`There is a kit “${known.kit.name}” already.`, {
      duration: 15_000,
      action: {
        label: 'Replace it',
        onClick: () =>
          void api('PUT /kits/:slug', {
            slug: known.kit.slug,
            body: { revision: known.revision, kit, note: 'from a file' },
          }).then(
            () => query.refetch().then(() => toast(`${known.kit.name} replaced.`)),
            (error: unknown) => toast.error(sentenceOf(error)),
          ),
      },
    });
  };
  const kindRows = sensorKinds.filter((kind) => kind !== 'wheel');
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3">
      <div className="flex flex-wrap items-center gap-2">
        <h1 className="mr-auto text-title font-bold">Kits</h1>
        <LinkButton to="/robots">Robots</LinkButton>
        <FileButton label="Kit file" accept=".json,application/json" take={(picked) => void take(picked)}>
          Add from JSON
        </FileButton>
        <LinkButton main icon={Plus} to="/kits/new">
          New kit
        </LinkButton>
      </div>
      {kits.length === 0 ? (
        <Empty title="No kit yet.">
          <p>Describe the kit of your cupboard, or add one from a file.</p>
        </Empty>
      ) : (
        <>
          <Panel title="In the cupboard">
            <ul>
              {kits.map(({ kit, robots }) => (
                <KitCard key={kit.slug} kit={kit} robots={robots} />
              ))}
            </ul>
          </Panel>
          <Panel title="What they can do" aside="what stands in for what, and what is lost by it">
            <div className="relative overflow-x-auto">
              <table className="w-full min-w-[44rem]">
                <TableHead columns={['needed', ...kits.map(({ kit }) => kit.name)]} />
                <tbody>
                  {needs.map(({ slug, title, needs: kinds }) =>
                    kinds.map((kind) => (
                      <tr key={`${slug} ${kind}`} className="border-t border-line-soft bg-sea-soft">
                        <th scope="row" className="py-2 pr-4 pl-2 text-left align-top">
                          {title}
                          <span className="block font-normal text-ink-2">
                            lesson, needs {sensorWords[kind]}
                          </span>
                        </th>
                        {kits.map(({ kit }) => (
                          <FitCell key={kit.slug} fit={fitOf(kit, kind)} />
                        ))}
                      </tr>
                    )),
                  )}
                  {kindRows.map((kind) => (
                    <tr key={kind} className="border-t border-line-soft">
                      <th scope="row" className="py-2 pr-4 pl-2 text-left align-top">
                        {sensorWords[kind]}
                      </th>
                      {kits.map(({ kit }) => (
                        <FitCell key={kit.slug} fit={fitOf(kit, kind)} />
                      ))}
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          </Panel>
        </>
      )}
    </main>
  );
}
