import { useQuery } from '@tanstack/react-query';
import { useMemo, useState, type ReactNode } from 'react';
import { toast } from 'sonner';
import { evidenceFor, judge } from '@vigilum/core/expect';
import { guessColumn, logHead, logSignals, readRunLog, type LogColumn } from '@vigilum/core/formats';
import { sceneFor } from '@vigilum/core/lesson';
import { countOf, formatNumber } from '@vigilum/core/quantity';
import { sensorOf } from '@vigilum/core/sensing';
import type { Trace } from '@vigilum/core/sim';
import type { ChangeOf, RunLog } from '@vigilum/contract/types';
import { Labelled } from '../../ui/fields.tsx';
import { Button } from '../../ui/Button.tsx';
import { api } from '../../data/api.ts';
import { keys } from '../../data/keys.ts';
import { useChange } from '../../data/queries.ts';
import { useRemoval } from '../../data/removal.ts';
import { Judgements } from '../../run/Judgements.tsx';
import { TraceChart } from '../../run/TraceChart.tsx';
import { usePlayback } from '../../run/usePlayback.ts';
import { FileButton } from '../../ui/FileButton.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { RemoveButton } from '../../ui/RemoveButton.tsx';
import { ago, useNow } from '../../ui/time.ts';
import type { StageContext } from '../../workspace/context.ts';

interface KeptLog {
  id: number;
  name: string;
  trace: { times: number[]; signals: Record<string, { unit: string; values: (number | null)[] }> };
  at: number;
}

const traceOf = ({ trace }: KeptLog): Trace => ({
  timesS: Float32Array.from(trace.times),
  signals: Object.fromEntries(
    Object.entries(trace.signals).map(([name, { unit, values }]) => [
      name,
      { unit, values: Float32Array.from(values, (value) => value ?? NaN) },
    ]),
  ),
});

/** A log's trace judged by the lesson's own sentences, and drawn. */
function LogShown({ context, name, trace }: { context: StageContext; name: string; trace: Trace }) {
  const { lesson, build } = context.record;
  const judged = useMemo(() => {
    const scene = { ...sceneFor(lesson, build), events: [], programOverS: null };
    const evidence = evidenceFor(trace, scene, lesson.expectations);
    return lesson.expectations.map((e) => judge(e, evidence));
  }, [lesson, build, trace]);
  const ids = Object.keys(trace.signals);
  const [chosen, setChosen] = useState('');
  const { socket } = lesson.need;
  const id = ids.includes(chosen) ? chosen : ids.includes(socket) ? socket : ids[0]!;
  const playback = usePlayback(trace);
  return (
    <Panel
      title={name}
      aside={`${countOf(trace.timesS.length, 'row')}, ${formatNumber(trace.timesS.at(-1))} s`}
      className="flex-1"
    >
      <Labelled beside label="over time" className="mb-2">
        <select className="input h-9 w-auto" value={id} onChange={(event) => setChosen(event.target.value)}>
          {ids.map((one) => (
            <option key={one} value={one}>
              {one}
            </option>
          ))}
        </select>
      </Labelled>
      <TraceChart
        className="min-h-48 flex-1"
        trace={trace}
        signal={{ id, name: id, unit: trace.signals[id]!.unit, min: null, max: null }}
        threshold={null}
        playback={playback}
        lines={[]}
      />
      <div className="mt-3">
        <Judgements lesson={lesson} judgements={judged} />
      </div>
    </Panel>
  );
}

const shown = (column: LogColumn): string =>
  column.as === 'time' ? `time ${column.unit}` : column.as === 'nothing' ? '' : column.signal;

/** A real robot's log: which column holds what, and what the lesson's expectations say of it. */
export function LogView({ context, toggle }: { context: StageContext; toggle: ReactNode }) {
  const { record, path, skew } = context;
  const touched = (): ChangeOf[] => [{ what: 'evidence', team: path.id, lesson: path.slug, part: 'log' }];
  const { kit, build } = record;
  const now = useNow(15_000) + skew;
  const kept = useQuery({
    queryKey: keys.logs(path.id, path.slug),
    queryFn: () => api('GET /teams/:id/lessons/:slug/logs', path),
  });
  const save = useChange(
    (body: RunLog) => api('POST /teams/:id/lessons/:slug/logs/imports', { ...path, body }),
    touched,
  );
  const take = useRemoval('run-logs', 'Log removed.', touched);
  const [file, setFile] = useState<{ name: string; text: string; columns: string[] } | null>(null);
  const [mapping, setMapping] = useState<LogColumn[]>([]);
  const [open, setOpen] = useState<number | null>(null);
  const sockets = useMemo(
    () =>
      build.fittings.map((fitting) => {
        const { unit = '' as const, noReading } = sensorOf(kit, fitting) ?? {};
        return { socket: fitting.socket, unit, ...(noReading === undefined ? {} : { noReading }) };
      }),
    [build, kit],
  );
  const read = useMemo(() => (file ? readRunLog(file.text, mapping) : null), [file, mapping]);
  const logs = kept.data?.logs ?? [];
  const keptLog = logs.find(({ id }) => id === open) ?? logs[0];
  const keptTrace = useMemo(() => (keptLog ? traceOf(keptLog) : null), [keptLog]);
  const choose = async (chosen: File) => {
    if (chosen.size > 5_000_000) return toast.error('A log has at most 5 MB: log fewer moments.');
    const text = await chosen.text();
    const head = logHead(text);
    if (!head.ok) return toast.error(`${head.says} ${head.mend}`);
    setFile({ name: chosen.name, text, columns: head.value.columns });
    setMapping(head.value.columns.map((column) => guessColumn(column, sockets)));
  };
  const options: [string, LogColumn][] = [
    ['', { as: 'nothing' }],
    ['time s', { as: 'time', unit: 's' }],
    ['time ms', { as: 'time', unit: 'ms' }],
    ...sockets.map(({ socket, unit, ...code }): [string, LogColumn] => [
      socket,
      { as: 'signal', signal: socket, unit: unit === 'deg/s' ? '' : unit, target: unit, ...code },
    ]),
    ...Object.entries(logSignals).map(([signal, target]): [string, LogColumn] => [
      signal,
      { as: 'signal', signal, unit: target === 'mm' ? 'mm' : target === 'deg' ? 'deg' : '', target },
    ]),
  ];
  const lengths = ['mm', 'cm', 'in'] as const;
  const keep = () => {
    if (!file || !read?.ok) return;
    const { timesS, signals } = read.value;
    const body = {
      name: file.name.slice(0, 120),
      times: [...timesS],
      signals: Object.fromEntries(
        Object.entries(signals).map(([name, { unit, values }]) => [
          name,
          { unit, values: [...values].map((value) => (Number.isNaN(value) ? null : value)) },
        ]),
      ),
    };
    save.mutateAsync(body).then(
      ({ id }) => {
        setFile(null);
        setOpen(id);
      },
      () => undefined,
    );
  };
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_25rem] lg:grid-rows-[minmax(0,1fr)]">
      {file && read?.ok ? (
        <LogShown key={file.name} context={context} name={file.name} trace={read.value} />
      ) : keptLog && keptTrace && !file ? (
        <LogShown key={keptLog.id} context={context} name={keptLog.name} trace={keptTrace} />
      ) : (
        <Panel title="A log of the real robot" className="flex-1">
          <p className="text-ink-2">
            A CSV file with one line for each moment: the time, and what the robot’s sensors said. The same
            expectations judge it as judge a simulated run; what the log does not hold cannot be told.
          </p>
        </Panel>
      )}
      <Panel
        title="Import a log"
        aside={toggle}
        footer={
          <>
            <FileButton label="Log file" accept=".csv,.txt,text/csv" take={(chosen) => void choose(chosen)}>
              Choose a CSV file
            </FileButton>
            {file ? (
              <>
                <Button main disabled={!read?.ok || save.isPending} onClick={keep}>
                  Keep this log
                </Button>
                <Button onClick={() => setFile(null)}>Not this one</Button>
              </>
            ) : null}
          </>
        }
      >
        {file ? (
          <>
            <p className="mb-2 text-ink-2">Which column holds what?</p>
            <ul className="flex flex-col gap-2">
              {file.columns.map((name, i) => {
                const column = mapping[i]!;
                const put = (next: LogColumn) => setMapping(mapping.map((one, j) => (j === i ? next : one)));
                const length = column.as === 'signal' && ['mm', 'cm', 'in'].includes(column.unit);
                return (
                  <li key={i} className="grid grid-cols-[minmax(0,1fr)_9rem_4.5rem] items-center gap-2">
                    <span className="truncate font-mono" title={name}>
                      {name || `column ${i + 1}`}
                    </span>
                    <select
                      className="input h-11 w-full"
                      aria-label={`What ${name} is`}
                      value={shown(column)}
                      onChange={(event) => put(options.find(([id]) => id === event.target.value)![1])}
                    >
                      {options.map(([id]) => (
                        <option key={id} value={id}>
                          {id || 'not used'}
                        </option>
                      ))}
                    </select>
                    {length && column.as === 'signal' ? (
                      <select
                        className="input h-11 w-full"
                        aria-label={`Unit of ${name}`}
                        value={column.unit}
                        onChange={(event) => put({ ...column, unit: event.target.value as 'mm' })}
                      >
                        {lengths.map((unit) => (
                          <option key={unit}>{unit}</option>
                        ))}
                      </select>
                    ) : (
                      <span className="text-ink-2">{column.as === 'signal' ? column.unit : ''}</span>
                    )}
                  </li>
                );
              })}
            </ul>
            {read && !read.ok ? (
              <p className="mt-3 text-fault" role="alert">
                {read.says} {read.mend}
              </p>
            ) : null}
          </>
        ) : (
          <ul className="flex flex-col gap-1">
            {logs.map((log) => (
              <li key={log.id} className="flex items-center gap-1">
                <button
                  type="button"
                  aria-pressed={log.id === keptLog?.id}
                  className={`min-h-11 min-w-0 flex-1 rounded-lg px-3 text-left ${log.id === keptLog?.id ? 'bg-sea-soft font-bold text-sea' : 'hover:bg-line-soft'}`}
                  onClick={() => setOpen(log.id)}
                >
                  {log.name} <span className="font-normal text-ink-2">{ago(log.at, now)}</span>
                </button>
                <RemoveButton title={`Remove the log ${log.name}`} onClick={() => void take(log.id)} />
              </li>
            ))}
            {logs.length === 0 ? <li className="text-ink-2">No log is kept yet.</li> : null}
          </ul>
        )}
      </Panel>
    </div>
  );
}
