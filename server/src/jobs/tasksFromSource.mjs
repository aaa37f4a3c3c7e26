// Loads the tasks from their TypeScript sources inside a worker thread: development and tests only.
import { register } from 'tsx/esm/api';

register();
export const { rehearseJob, proveJob, solveJob } = await import('./tasks.ts');
