// A process whose main thread never comes back from what it is answering.
import { whileUnderWay } from '../underWay.ts';
import { watchOver } from '../watchOver.ts';

watchOver('.', 0);
void whileUnderWay('GET /answered', () => Promise.resolve());
void whileUnderWay('GET /waits', () => new Promise(() => undefined));
setTimeout(() => {
  void whileUnderWay('POST /never', () => {
    for (;;);
  });
}, 600);
