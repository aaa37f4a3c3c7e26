import { useState } from 'react';
import { SHORTEST_WAY_S, type RobotTrial, type RobotTrialKind } from '@vigilum/core/motion';
import { formatNumber, typedNumber } from '@vigilum/core/quantity';
import { sensorOf, sensorWords } from '@vigilum/core/sensing';
import type { RobotDetail } from '@vigilum/contract/types';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { robotChange } from '../reading/saves.ts';
import { useChange } from '../data/queries.ts';
import { Choice } from '../ui/Choice.tsx';

export const trialKinds: readonly RobotTrialKind[] = ['way', 'turn', 'stop', 'creep'];
export const trialWords: Record<RobotTrialKind, string> = {
  way: 'timed way',
  turn: 'known turn',
  stop: 'stop',
  creep: 'least speed',
};

type Field = 'speed' | 'seconds' | 'went' | 'aside' | 'asked' | 'turned' | 'past';
interface FieldFacts {
  label: string;
  least: number;
  most: number;
  /** May stay empty. */
  open?: boolean;
}
const facts: Record<Field, FieldFacts> = {
  speed: { label: 'at speed, %', least: 0.1, most: 100 },
  seconds: { label: 'for, s', least: SHORTEST_WAY_S, most: 60 },
  went: { label: 'way by tape, mm', least: 1, most: 20_000 },
  aside: { label: 'ended aside, mm', least: 0, most: 5000, open: true },
  asked: { label: 'asked to turn, deg', least: 1, most: 7200 },
  turned: { label: 'turned by protractor, deg', least: 1, most: 7200 },
  past: { label: 'sensor past the edge, mm', least: 0.1, most: 5000 },
};
const fieldsOf: Record<RobotTrialKind, readonly Field[]> = {
  way: ['speed', 'seconds', 'went', 'aside'],
  turn: ['asked', 'turned'],
  stop: ['speed', 'past'],
  creep: ['speed'],
};
const advice: Record<RobotTrialKind, string> = {
  way: 'Mark where an axle end stands, run, let it come to rest, measure to the same axle end. Log short (0.5 s) and long ways at a fast speed: together they tell run-up and braking from speed.',
  turn: 'Two or three times round tells more than a quarter. Line it up with a straight edge before and after.',
  stop: 'Drive up to an edge that the sensor sees; measure how far the sensor stands past it.',
  creep:
    'Set it down, run, watch the wheels. Find the slowest speed that moves it, and one just below that does not.',
};
const start = { speed: '100', seconds: '2', asked: '720' } as const;

/** What to run, in the step script, with the numbers typed so far. */
function program(kind: RobotTrialKind, typed: Partial<Record<Field, string>>): string {
  const speed = typed.speed || '…';
  switch (kind) {
    case 'way':
      return `drive ${speed} % for ${typed.seconds || '…'} s\nstop`;
    case 'turn':
      return `turn right ${typed.asked || '…'} deg at 20 %`;
    case 'stop':
      return `drive ${speed} %\nwait until eye < threshold\nstop`;
    case 'creep':
      return `drive ${speed} % for 2 s\nstop`;
  }
}

/** One trial of the robot by itself: what to run, what to measure, and where it is logged. */
export function TrialLogger({ detail }: { detail: RobotDetail }) {
  const { kit, build } = detail;
  const [kind, setKind] = useState<RobotTrialKind>('way');
  const [typed, setTyped] = useState<Partial<Record<Field, string>>>(start);
  const [left, setLeft] = useState(false);
  const [tried, setTried] = useState(false);
  const looking = build.fittings.filter(
    ({ mode }) => mode !== 'touch' && mode !== 'heading' && mode !== 'spin',
  );
  const [socket, setSocket] = useState(looking[0]?.socket ?? '');
  const fitting = looking.find((one) => one.socket === socket) ?? looking[0];
  const save = useChange(
    (body: RobotTrial) => api('POST /robots/:id/trials', { id: detail.id, body }),
    (_, __, client) => [robotChange(client, detail.id, 'trials')],
  );
  const valueOf = (field: Field): number | null => {
    const text = typed[field]?.trim() ?? '';
    const value = text === '' ? NaN : typedNumber(text);
    return value >= facts[field].least && value <= facts[field].most ? value : null;
  };
  const bad = (field: Field) =>
    valueOf(field) === null && !(facts[field].open && (typed[field]?.trim() ?? '') === '');
  const good = fieldsOf[kind].every((field) => !bad(field)) && (kind !== 'stop' || fitting !== undefined);
  const trialOf = (moved: boolean): RobotTrial => {
    const [speedPercent, aside] = [valueOf('speed')!, valueOf('aside')];
    switch (kind) {
      case 'way':
        return {
          kind,
          speedPercent,
          seconds: valueOf('seconds')!,
          wentMm: valueOf('went')!,
          asideMm: aside === null ? null : left ? -aside : aside,
        };
      case 'turn':
        return { kind, askedDeg: valueOf('asked')!, turnedDeg: valueOf('turned')!, trackMm: build.trackMm };
      case 'stop':
        return {
          kind,
          speedPercent,
          pastMm: valueOf('past')!,
          samplePeriodMs: sensorOf(kit, fitting!)!.samplePeriodMs,
        };
      case 'creep':
        return { kind, speedPercent, moved };
    }
  };
  const log = (moved = true) => {
    setTried(true);
    if (!good) return;
    save.mutate(trialOf(moved), {
      onSuccess: () => {
        // The settings stay for the next trial; what was measured does not.
        setTyped({ ...typed, went: '', aside: '', turned: '', past: '' });
        setTried(false);
      },
    });
  };
  return (
    <form
      noValidate
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (kind !== 'creep') log();
      }}
    >
      <Choice
        label="Kind of trial"
        options={trialKinds}
        words={trialWords}
        value={kind}
        choose={(next) => {
          setKind(next);
          setTried(false);
        }}
      />
      <pre className="rounded-lg border border-line bg-paper px-3 py-2 font-mono whitespace-pre-wrap text-ink">
        {program(kind, typed)}
      </pre>
      <p className="text-ink-2">{advice[kind]}</p>
      <div className="grid grid-cols-2 gap-3">
        {fieldsOf[kind].map((field) => {
          const { label, least, most, open } = facts[field];
          const wrong = bad(field) && (tried || (typed[field]?.trim() ?? '') !== '');
          return (
            <Labelled
              label={
                <>
                  {label}
                  {open ? ' (if measured)' : ''}
                </>
              }
              className="min-w-0"
              key={field}
            >
              <input
                className="input w-full font-mono text-xl"
                inputMode="decimal"
                autoComplete="off"
                aria-invalid={wrong}
                value={typed[field] ?? ''}
                onChange={(event) => setTyped({ ...typed, [field]: event.target.value })}
              />
              {wrong ? (
                <span className="text-fault">
                  A number from {formatNumber(least)} to {formatNumber(most)}.
                </span>
              ) : null}
            </Labelled>
          );
        })}
        {kind === 'way' ? (
          <div className="col-span-2 flex items-center gap-3">
            <span className="text-ink-2">aside to the</span>
            <Choice
              label="Which side"
              options={['left', 'right'] as const}
              value={left ? 'left' : 'right'}
              choose={(side) => setLeft(side === 'left')}
            />
          </div>
        ) : null}
        {kind === 'stop' && !fitting ? (
          <p role="alert" className="col-span-2 text-fault">
            No sensor that could see an edge is fitted. Say under Build what is plugged in.
          </p>
        ) : null}
        {kind === 'stop' && fitting ? (
          <Labelled label="seen by" className="col-span-2">
            <select
              className="input w-full"
              value={fitting.socket}
              onChange={(event) => setSocket(event.target.value)}
            >
              {looking.map(({ socket: name, mode }) => (
                <option key={name} value={name}>
                  {name}, {sensorWords[mode]}
                </option>
              ))}
            </select>
          </Labelled>
        ) : null}
      </div>
      {kind === 'creep' ? (
        <div className="flex gap-2">
          <Button main disabled={save.isPending} onClick={() => log(true)}>
            Log: it moved
          </Button>
          <Button disabled={save.isPending} onClick={() => log(false)}>
            Log: it stood
          </Button>
        </div>
      ) : (
        <div>
          <Button main type="submit" disabled={save.isPending}>
            Log the {trialWords[kind]}
          </Button>
        </div>
      )}
    </form>
  );
}
