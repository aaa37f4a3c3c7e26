// Builds the application when its sources changed since the last build.
import { ensureBuilt } from './lib.mjs';

ensureBuilt();
