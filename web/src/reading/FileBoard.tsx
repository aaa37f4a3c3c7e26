import { useQueryClient } from '@tanstack/react-query';
import { proxy, wrap, type Remote } from 'comlink';
import { Download, FileUp } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { guessMapping, writeReadings, type ColumnMapping, type ImportChoices } from '@vigilum/core/formats';
import { countOf, formatNumber } from '@vigilum/core/quantity';
import { sensorWords, type Kit, type SensorKind } from '@vigilum/core/sensing';
import { toast } from 'sonner';
import { Button } from '../ui/Button.tsx';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { saveFile } from '../ui/saveFile.ts';
import { FindingCard } from '../ui/Finding.tsx';
import { Panel } from '../ui/Panel.tsx';
import type { FileSummary, Preview, ReadingsFile } from '../workers/readingsFile.worker.ts';
import { ColumnChoices } from './ColumnChoices.tsx';
import { TableHead } from '../ui/TableHead.tsx';
import { CheckBox } from '../ui/CheckBox.tsx';
import { api } from '../data/api.ts';
import { ask } from '../data/feed.ts';
import { useWhose } from '../data/whose.ts';
import { robotChange } from './saves.ts';

/** The worker that reads files, alive while the board is shown. */
function useReader(): () => Remote<ReadingsFile> {
  const kept = useRef<{ worker: Worker; remote: Remote<ReadingsFile> } | null>(null);
  useEffect(
    () => () => {
      kept.current?.worker.terminate();
      kept.current = null;
    },
    [],
  );
  return () => {
    if (!kept.current) {
      const worker = new Worker(new URL('../workers/readingsFile.worker.ts', import.meta.url), {
        type: 'module',
      });
      kept.current = { worker, remote: wrap<ReadingsFile>(worker) };
    }
    return kept.current.remote;
  };
}

/** Where readings go that the file says nothing about. */
export interface UsualPlace {
  socket: string;
  kind: SensorKind;
  surface: string;
}

function Found({ summary, kit }: { summary: FileSummary; kit: Kit }) {
  const unit = (kind: SensorKind) =>
    kit.sensors.flatMap(({ modes }) => modes).find((mode) => mode.kind === kind)?.unit ?? '';
  return (
    <table className="w-full">
      <TableHead columns={['surface', 'socket', 'measures', '|true value', '|readings', '|mean']} />
      <tbody>
        {summary.sets.map((set) => (
          <tr key={JSON.stringify(set)} className="h-10 border-t border-line-soft">
            <th scope="row" className="pr-3 text-left font-bold">
              {set.surface}
            </th>
            <td className="pr-3 font-mono">{set.socket}</td>
            <td className="pr-3">{sensorWords[set.kind]}</td>
            <td className="pr-3 text-right font-mono">
              {set.truth === null ? '' : `${formatNumber(set.truth)} ${unit(set.kind)}`}
            </td>
            <td className="pr-3 text-right font-mono">
              {set.n}
              {set.noReadings > 0 ? <span className="text-ink-2"> ({set.noReadings} without)</span> : null}
            </td>
            <td className="pr-3 text-right font-mono">
              {formatNumber(set.mean)} {unit(set.kind)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Readings out to a file and in from one: every column asked for, every fault told with its line, nothing half imported. */
export default function FileBoard({
  robot,
  kit,
  usual,
}: {
  robot: { id: number; name: string };
  kit: Kit;
  usual: UsualPlace;
}) {
  const whose = useWhose();
  const client = useQueryClient();
  const reader = useReader();
  const [preview, setPreview] = useState<Preview | null>(null);
  const [choices, setChoices] = useState<ImportChoices | null>(null);
  const [summary, setSummary] = useState<FileSummary | null>(null);
  const [share, setShare] = useState<number | null>(null);
  const [leaveOut, setLeaveOut] = useState(false);
  const [over, setOver] = useState(false);
  const latest = useRef(0);

  const read = async (wanted: ImportChoices) => {
    setChoices(wanted);
    setSummary(null);
    setLeaveOut(false);
    setShare(0);
    // Words of an earlier reading that come late are not heard.
    const mine = ++latest.current;
    const told = (s: number) => {
      if (latest.current === mine) setShare(s < 1 ? s : null);
    };
    const found = await reader().collect(kit, wanted, proxy(told));
    if (latest.current !== mine) return;
    setShare(null);
    setSummary(found);
  };
  const take = async (file: File | undefined) => {
    if (!file) return;
    setSummary(null);
    setChoices(null);
    const head = await reader().open(file);
    setPreview(head);
    if (head.refused) return;
    const mapping: ColumnMapping = guessMapping(head.header);
    await read({ mapping, ...usual, unit: '', decimalComma: head.delimiter === ';' });
  };
  const send = async () => {
    const { ok, says } = await reader().send(robot.id, whose);
    if (!ok) return void toast.error(says);
    toast(says);
    setPreview(null);
    setChoices(null);
    setSummary(null);
    await ask(client, [robotChange(client, robot.id, 'readings')]);
  };
  const download = async () => {
    try {
      const { sets: shown } = await api('GET /robots/:id/readings', { id: robot.id });
      // A file holds every look, not the samples that pages show.
      const sets = await Promise.all(
        shown.map(async (set) => (set.of ? await api('GET /sample-sets/:id', { id: set.id }) : set)),
      );
      if (sets.length === 0) return void toast('This robot has no readings yet.');
      const unit = (kind: SensorKind) =>
        kit.sensors.flatMap(({ modes }) => modes).find((mode) => mode.kind === kind)?.unit ?? '';
      const csv = writeReadings(
        robot.name,
        sets.map((set) => ({ ...set, samples: set.rgb ?? set.values, unit: unit(set.kind) })),
      );
      saveFile(`${robot.name.replaceAll(' ', '-')}-readings.csv`, 'text/csv', csv);
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  const ready = summary !== null && summary.sets.length > 0 && (summary.faulty === 0 || leaveOut);
  const shownFaults = useMemo(() => summary?.faults.slice(0, 30) ?? [], [summary]);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_25rem] lg:grid-rows-[minmax(0,1fr)]">
      <Panel
        title="Readings from a file"
        aside={preview && !preview.refused ? preview.name : 'CSV, columns in any order'}
        footer={
          summary ? (
            <>
              <Button main disabled={!ready} onClick={() => void send()}>
                Import {countOf(summary.sets.length, 'set')}
              </Button>
              <Button onClick={() => (setPreview(null), setSummary(null), setChoices(null))}>
                Another file
              </Button>
              {summary.faulty > 0 && summary.sets.length > 0 ? (
                <CheckBox checked={leaveOut} change={setLeaveOut}>
                  leave out {countOf(summary.faulty, 'faulty row')}
                </CheckBox>
              ) : null}
            </>
          ) : undefined
        }
      >
        {!preview || preview.refused ? (
          <label
            className={`grid min-h-56 flex-1 cursor-pointer place-items-center rounded-lg border-2 border-dashed text-center ${over ? 'border-sea bg-sea-soft' : 'border-edge'}`}
            onDragOver={(event) => (event.preventDefault(), setOver(true))}
            onDragLeave={() => setOver(false)}
            onDrop={(event) => {
              event.preventDefault();
              setOver(false);
              void take(event.dataTransfer.files[0]);
            }}
          >
            <span className="flex flex-col items-center gap-2 p-6">
              <FileUp size={30} aria-hidden="true" />
              <span className="font-bold">Choose a CSV file, or drop it here</span>
              <span className="text-ink-2">
                One reading a line; a column for the readings is all it needs. 200,000 readings at the most.
              </span>
              {preview?.refused ? (
                <span role="alert" className="font-bold text-fault">
                  {preview.name}: {preview.refused}
                </span>
              ) : null}
            </span>
            <input
              type="file"
              accept=".csv,text/csv,text/plain"
              className="sr-only"
              onChange={(event) => {
                void take(event.target.files?.[0]);
                event.target.value = '';
              }}
            />
          </label>
        ) : null}
        {share !== null ? (
          <p role="status" className="flex items-center gap-3 py-2">
            <progress
              className="h-3 w-64 overflow-hidden rounded-full [&::-webkit-progress-bar]:bg-line [&::-webkit-progress-value]:bg-sea"
              value={share}
              max={1}
            />{' '}
            reading the file, {formatNumber(100 * share, 0)} %
          </p>
        ) : null}
        {summary && summary.sets.length > 0 ? <Found summary={summary} kit={kit} /> : null}
        {summary ? (
          <div className="mt-3 flex flex-col gap-3">
            {summary.faulty > 0 ? (
              <FindingCard
                tone="fault"
                says={`${countOf(summary.faulty, 'row')} of ${summary.rows} cannot be taken.`}
                more={
                  summary.sets.length === 0
                    ? 'Say on the right which column holds what, or mend the file and choose it again.'
                    : 'Mend the file and choose it again, say which column holds what, or leave those rows out.'
                }
              />
            ) : (
              <FindingCard
                tone="done"
                says={`All ${countOf(summary.rows, 'row')} can be taken.`}
                more="Nothing is kept until you import."
              />
            )}
            {shownFaults.length > 0 ? (
              <ul className="flex flex-col" aria-label="Faulty rows">
                {shownFaults.map((fault, i) => (
                  <li key={i} className="flex gap-3 border-t border-line-soft py-1.5">
                    <span className="w-20 shrink-0 font-mono text-ink-2">line {fault.line}</span>
                    <span>{fault.says}</span>
                  </li>
                ))}
                {summary.faulty > shownFaults.length ? (
                  <li className="border-t border-line-soft py-1.5 text-ink-2">
                    and {summary.faulty - shownFaults.length} more.
                  </li>
                ) : null}
              </ul>
            ) : null}
          </div>
        ) : null}
      </Panel>
      {preview && !preview.refused && choices ? (
        <Panel title="Which column holds what?" aside="guessed from the heading">
          <ColumnChoices
            preview={preview}
            choices={choices}
            kit={kit}
            change={(wanted) => void read(wanted)}
          />
        </Panel>
      ) : (
        <Panel title="Readings to a file">
          <p className="text-ink-2">
            Every newest set of {robot.name}, a line a reading, with surface, socket, unit and light note: for
            a spreadsheet, or for another Vigilum.
          </p>
          <Button icon={Download} className="mt-3 self-start" onClick={() => void download()}>
            Save as CSV
          </Button>
        </Panel>
      )}
    </div>
  );
}
