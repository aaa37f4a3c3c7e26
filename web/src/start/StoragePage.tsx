import { DatabaseBackup, Download } from 'lucide-react';
import { toast } from 'sonner';
import { countOf, formatNumber } from '@vigilum/core/quantity';
import { Button } from '../ui/Button.tsx';
import { api, download } from '../data/api.ts';
import { useChange, useStorage } from '../data/queries.ts';
import { whenOf } from '../hours/when.ts';
import { BackLink } from '../ui/BackLink.tsx';
import { QrCode } from '../ui/QrCode.tsx';
import { Fact, Panel } from '../ui/Panel.tsx';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { Failed, Loading } from '../ui/states.tsx';

const megabytes = (bytes: number): string =>
  bytes < 100_000 ? `${formatNumber(bytes / 1000, 0)} kB` : `${formatNumber(bytes / 1e6, 1)} MB`;

/** Where everything is kept, whether there is room, and the backups: made now, or saved on this machine. */
export default function StoragePage() {
  const query = useStorage();
  const save = useChange(
    () => api('POST /backups', {}),
    () => void query.refetch(),
  );
  if (query.isPending) return <Loading what="where the data is" />;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { folder, shared, freeMb, refusal, backupFolder, backups, addresses, now, office } = query.data;
  const [newest] = backups;
  const days = newest ? (now - newest.at) / 86_400_000 : null;
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <BackLink to="/start" title="Back to the classes" />
        <h1 className="mr-auto text-title font-bold">Data and backups</h1>
        {office ? (
          <Button
            main
            icon={DatabaseBackup}
            disabled={save.isPending || refusal !== null}
            onClick={() =>
              save.mutate(undefined, {
                onSuccess: ({ name }) => toast.success(`${name} is made and read back.`),
              })
            }
          >
            {save.isPending ? 'Backing up …' : 'Back up now'}
          </Button>
        ) : null}
      </header>
      {refusal ? (
        <p role="alert" className="border-l-4 border-l-fault bg-sheet px-4 py-2 font-semibold text-fault">
          {refusal}
        </p>
      ) : null}
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-2">
        <Panel title="Where it is kept">
          <dl className="flex flex-col gap-3">
            <div>
              <dt className="text-ink-2">
                {shared
                  ? 'database, which several servers may share'
                  : 'data folder, on the machine that runs Vigilum'}
              </dt>
              <dd className="font-mono break-all">{folder}</dd>
            </div>
            {office ? (
              <div>
                <dt className="text-ink-2">
                  backups, seven kept: one a day and one before every new form of the data
                </dt>
                <dd className="font-mono break-all">{backupFolder}</dd>
              </div>
            ) : null}
          </dl>
          <div className="mt-4 flex flex-wrap gap-8">
            {freeMb === null ? null : (
              <Fact
                label="free there"
                value={formatNumber(freeMb / 1000, freeMb < 10_000 ? 1 : 0)}
                unit="GB"
              />
            )}
            {office ? (
              <Fact
                label="last backup"
                value={days === null ? 'none' : days < 1 ? 'today' : countOf(Math.floor(days), 'day')}
                {...(days !== null && days >= 1 ? { unit: 'ago' } : {})}
              />
            ) : null}
          </div>
          {office ? (
            <p className="mt-4 text-ink-2">
              A backup on the same disk does not help when the disk fails: save one on another machine or a
              stick now and then.
            </p>
          ) : null}
        </Panel>
        <Panel title="For tablets" aside={addresses.length > 0 ? 'scan, or type' : undefined}>
          {addresses.length === 0 ? (
            <p className="text-ink-2">
              This Vigilum answers its own machine alone. Started with{' '}
              <code className="font-mono">HOST=0.0.0.0</code> it answers the network as well, and its
              addresses stand here.
            </p>
          ) : (
            <ul className="flex flex-wrap gap-6">
              {addresses.slice(0, 4).map((url) => (
                <li key={url} className="flex flex-col gap-1">
                  <QrCode of={url} />
                  <span className="font-mono">{url}</span>
                </li>
              ))}
            </ul>
          )}
        </Panel>
        <Panel title="Backups" aside={backups.length > 0 ? 'newest first' : undefined}>
          {!office ? (
            <p className="text-ink-2">
              A backup holds all the schools of this database. The office that looks after them makes it, and
              can bring back what is lost: ask there.
            </p>
          ) : backups.length === 0 ? (
            <p className="text-ink-2">None yet. The first is made a minute after the start, or by a press.</p>
          ) : (
            <ul className="flex flex-col divide-y divide-line-soft">
              {backups.map(({ name, at, bytes }) => (
                <li key={name} className="flex flex-wrap items-center gap-3 py-1.5">
                  <span className="mr-auto">
                    <strong>{whenOf(at)}</strong> <span className="text-ink-2">{megabytes(bytes)}</span>
                  </span>
                  <Button
                    icon={Download}
                    onClick={() =>
                      void download(`/api/backups/${name}`, name).catch((error: unknown) =>
                        toast.error(sentenceOf(error)),
                      )
                    }
                  >
                    Save on this machine
                  </Button>
                </li>
              ))}
            </ul>
          )}
        </Panel>
      </div>
    </main>
  );
}
