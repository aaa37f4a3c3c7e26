// npm run bench: how fast the simulator is, as ratios of measurements made in this same run. Never a test.
import { Kernel, simulate, type Machine } from '@vigilum/core/sim';
import { cobbleBuild } from '../src/starter/build.ts';
import { cobble } from '../src/starter/cobble.ts';
import Papa from 'papaparse';
import { guessMapping, ReadingsImport, scanCsv } from '@vigilum/core/formats';
import { tideLine } from '../src/starter/tideLine.ts';
import { startSimulations } from '../src/jobs/simulations.ts';
import { scriptRows } from './scriptBench.ts';
import { sweepRows } from './sweepBench.ts';
import { classCheck, coldStart } from './classBench.ts';
import { judgingRows } from './judgingBench.ts';
import { curve, follow, openFloorRows, scenes } from './openFloor.ts';
import { worldRows } from './worldBench.ts';

/** Seconds that `work` takes: the best of several rounds, after warming up by so many calls and for so long. */
function seconds(work: () => void, rounds = 7, warming = 3, warmingMs = 0): number {
  const until = performance.now() + warmingMs;
  for (let i = 0; i < warming || performance.now() < until; i++) work();
  let best = Infinity;
  for (let i = 0; i < rounds; i++) {
    const from = performance.now();
    work();
    best = Math.min(best, performance.now() - from);
  }
  return best / 1000;
}

const rows: string[][] = [];
const show = (n: number, digits = 2) => n.toFixed(digits);
let sink = 0;

rows.push(...(await openFloorRows()));

{
  const given = scenes[1]![1];
  const line = Int32Array.from([1]);
  const hand = {
    ops: [
      (k: Machine) => {
        if (k.timeMs >= 20_000) {
          k.command(0, 0, 'brake');
          return -1;
        }
        if (k.readings[0]! < 46) k.command(38, 22, 'drive');
        else k.command(22, 38, 'drive');
        return 0;
      },
    ],
    lines: line,
    valueCount: 0,
    slotCount: 0,
    moves: new Uint8Array(2),
    listCount: 0,
    mainEntry: 0,
    watchers: [],
    log: [],
    begin: () => {},
  };
  // In turns, so that whatever else the machine does falls on both alike.
  let [script, byHand] = [Infinity, Infinity];
  for (let round = 0; round < 12; round++) {
    script = Math.min(
      script,
      seconds(() => {
        sink += simulate(given).trace.timesS.length;
      }, 5),
    );
    byHand = Math.min(
      byHand,
      seconds(() => {
        sink += new Kernel(given, hand).run().trace.timesS.length;
      }, 5),
    );
  }
  rows.push([
    'script against hand-written',
    `${show(byHand / script)} of hand-written speed (wanted 0.75)`,
    '',
    '',
    '',
  ]);
}

{
  const lesson = { ...tideLine, course: curve, timeLimitS: 21 };
  const known = { kit: cobble, build: cobbleBuild, sets: [], thresholds: { K3: 46 } };
  const jobs = (seed: number) => ({
    lesson,
    known,
    text: `sensor floor is light on K3\n${follow}`,
    seed,
    runs: 25,
  });
  const batch = async (threads: number) => {
    const pool = startSimulations(threads);
    const all = () => Promise.all(Array.from({ length: 8 }, (_, i) => pool.prove(jobs(i))));
    await all();
    const from = performance.now();
    await all();
    const took = (performance.now() - from) / 1000;
    await pool.close();
    return took;
  };
  const [one, two] = [await batch(1), await batch(2)];
  rows.push([
    '200 runs of 20 s',
    `${show(one / two)} × with two workers (wanted 1.6)`,
    '',
    `${show(one)} s / ${show(two)} s`,
    '',
  ]);
}

{
  const lines = ['surface,value,socket,kind'];
  for (let i = 0; i < 100_000; i++) lines.push(`slipway ${i % 20},${20 + ((i * 7) % 60)},K3,light`);
  const text = lines.join('\n');
  const import_ = () => {
    let into: ReadingsImport | null = null;
    scanCsv(
      text,
      (record) => {
        if (into) into.add(record);
        else
          into = new ReadingsImport(cobble, record.fields, {
            mapping: guessMapping(record.fields),
            socket: 'K3',
            kind: 'light',
            surface: '',
            unit: '',
            decimalComma: false,
          });
      },
      () => undefined,
    );
    return (into as ReadingsImport | null)!.result().length;
  };
  const plain = () => {
    let n = 0;
    Papa.parse(text, { delimiter: ',', step: () => void n++ });
    return n;
  };
  globalThis.gc?.();
  const before = process.memoryUsage().heapUsed;
  sink += import_();
  const grew = (process.memoryUsage().heapUsed - before) / 1024 / 1024;
  const [ours, theirs] = [seconds(() => (sink += import_()), 3), seconds(() => (sink += plain()), 3)];
  rows.push([
    '100,000 readings from CSV',
    `${show(ours / theirs)} × the bare parser’s time`,
    '',
    `${show(ours)} s`,
    `${show(grew)} MB of heap`,
  ]);
}

{
  const judging = judgingRows();
  const worst = judging.reduce((a, b) => (b.share > a.share ? b : a));
  const mean = judging.reduce((sum, { share }) => sum + share, 0) / judging.length;
  rows.push([
    'judging, of a run and its judgement',
    `${show(100 * mean, 0)} % on average over the lessons, at most ${show(100 * worst.share, 0)} % (${worst.lesson}; wanted 25)`,
    '',
    `${show(Math.max(...judging.map(({ judgeMs }) => judgeMs)))} ms per simulated second at most`,
    '',
  ]);
}
for (const teams of [8, 30]) {
  const { tookS, simulatedS } = await classCheck(teams);
  rows.push([
    `class check of ${teams} teams, two workers`,
    `${show(tookS / simulatedS, 4)} s per simulated second`,
    '',
    `${show(tookS)} s`,
    `${Math.round(simulatedS)} s simulated`,
  ]);
}
rows.push(...(await sweepRows()));
rows.push(coldStart());
rows.push(...worldRows(seconds));
rows.push(...scriptRows());

const widths = [0, 1, 2, 3, 4].map((c) => Math.max(...rows.map((row) => row[c]!.length)));
for (const row of rows)
  process.stdout.write(
    `${row
      .map((cell, c) => cell.padEnd(widths[c]!))
      .join('   ')
      .trimEnd()}\n`,
  );
if (!Number.isFinite(sink)) process.exitCode = 1;
