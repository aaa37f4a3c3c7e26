import { parentPort, workerData } from 'node:worker_threads';
import { median } from 'simple-statistics';
import { simulate } from '@vigilum/core/sim';
import { referenceRun } from '../../core/src/sim/test/referenceStepper.ts';
import { bareKinematics, scenes, type Measured } from './openFloor.ts';

/** The kernel is as warm as a class's proofs make it; the plain stepper has run so many times before. */
const WARM_MS = 500;
const PLAIN_BEFORE = 3;
const ROUNDS = 3;

const given = scenes[workerData as number]![1];
const simulatedS = simulate(given).trace.timesS.at(-1)!;
const repeats = Math.ceil(40 / simulatedS);
let sink = 0;
const many = () => {
  for (let i = 0; i < repeats; i++) sink += simulate(given).trace.timesS.length;
};
const plainly = () => (sink += referenceRun(given).atMs);
const barely = () => (sink += bareKinematics(1000 * simulatedS * repeats));

/** ms of the quickest of a few. */
const quickest = (work: () => void, times: number): number =>
  Math.min(
    ...Array.from({ length: times }, () => {
      const from = performance.now();
      work();
      return performance.now() - from;
    }),
  );

for (const until = performance.now() + WARM_MS; performance.now() < until;) {
  many();
  barely();
}
for (let i = 0; i < PLAIN_BEFORE; i++) plainly();
// By turns, so that whatever else the machine does falls on all alike.
const rounds = Array.from({ length: ROUNDS }, () => {
  const fast = quickest(many, 3);
  return { plain: quickest(plainly, 1) * repeats, fast, bare: quickest(barely, 3) };
});
const middle = (of: (one: (typeof rounds)[number]) => number) => median(rounds.map(of));
const found: Measured = {
  ofPlain: middle(({ plain, fast }) => plain / fast),
  ofBare: middle(({ bare, fast }) => bare / fast),
  secondsPerSecond: middle(({ fast }) => (simulatedS * repeats) / (fast / 1000)),
};
if (Number.isFinite(sink)) parentPort!.postMessage(found);
