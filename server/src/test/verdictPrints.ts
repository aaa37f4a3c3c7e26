// Runs in Node and in the browser: fingerprints of the first runs of every lesson's proof, and what became of each.
import { proofCircumstances, rehearseRun, runSeed, worldOf } from '@vigilum/core/lesson';
import { canRun, parseScript } from '@vigilum/core/script';
import { usualLessons } from '../starter/lessons/index.ts';
import { lessonRobot } from './lessonRobot.ts';

/** FNV-1a over bytes, 32 bits. */
function print(bytes: Uint8Array, from = 0x811c9dc5): number {
  let hash = from;
  for (const byte of bytes) hash = Math.imul(hash ^ byte, 0x01000193) >>> 0;
  return hash;
}
const bytesOf = (values: Float32Array) => new Uint8Array(values.buffer, values.byteOffset, values.byteLength);

export interface VerdictPrint {
  run: string;
  /** Of what was drawn for the run. */
  setup: number;
  /** Of the record of the run, every signal, and of its events. */
  record: number;
  samples: number;
  /** Where the robot ended, to a thousandth of a mm and degree. */
  end: string;
  verdicts: string;
  margins: string;
}

/** Fingerprints of the first runs of each lesson: of its model answer and of its typical faults. */
export function verdictPrints(runs: number): VerdictPrint[] {
  const text = new TextEncoder();
  return usualLessons.flatMap((lesson) => {
    const known = lessonRobot(lesson);
    const scripts = [lesson.modelScript, ...(lesson.faults ?? []).map(({ script }) => script)];
    return scripts.flatMap((script, s): VerdictPrint[] => {
      const program = parseScript(script);
      if (!canRun(program)) return [];
      return Array.from({ length: runs }, (_, i) => {
        const seed = runSeed(lesson.proof.seed, i);
        const { run, judgements } = rehearseRun(lesson, known, program, seed);
        let record = print(bytesOf(run.trace.timesS));
        const names = Object.keys(run.trace.signals).sort();
        for (const name of names) record = print(bytesOf(run.trace.signals[name]!.values), record);
        record = print(text.encode(JSON.stringify(run.events)), record);
        const { x, y, bearing } = run.trace.signals;
        const drawn = proofCircumstances(worldOf(lesson, seed).lesson, seed);
        return {
          run: `${lesson.slug} ${s} ${i}`,
          setup: print(text.encode(JSON.stringify(drawn))),
          record,
          samples: run.trace.timesS.length,
          end: [x, y, bearing].map((signal) => signal!.values.at(-1)!.toFixed(3)).join(' '),
          verdicts: judgements.map(({ verdict }) => verdict).join(' '),
          margins: JSON.stringify(judgements.map(({ margin }) => margin)),
        };
      });
    });
  });
}
