import { parseScript } from './parse.ts';
import { walkProgram } from './walk.ts';

/** The speed of a script's last plain `drive` step that goes ahead, in %; null when it has none that is a plain number. */
export function driveSpeed(text: string): number | null {
  let speed: number | null = null;
  walkProgram(parseScript(text), (step) => {
    if (step.kind === 'drive' && !step.until && step.speed.kind === 'quantity' && step.speed.value > 0)
      speed = step.speed.value;
  });
  return speed;
}
