// Which test file is begun first. Jest goes by what earlier runs took, or by size where nothing is known, as on a fresh
// clone; there a short file that takes minutes would begin last and keep one core busy while the other waits.
import Sequencer from '@jest/test-sequencer';

const LONG = [
  'lessons.test.ts',
  'fuzz.test.ts',
  'taskVerdicts.test.ts',
  'worlds.test.ts',
  'builder.test.ts',
  'storage.test.ts',
];
const place = ({ path }) => {
  const at = LONG.findIndex((name) => path.endsWith(`/${name}`));
  return at < 0 ? LONG.length : at;
};

export default class LongFirst extends Sequencer {
  sort(tests) {
    return [...super.sort(tests)].sort((a, b) => place(a) - place(b));
  }
}
