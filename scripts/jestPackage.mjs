// A package's own modules for Jest as they are, with the language's own globals bound.
import { createHash } from 'node:crypto';
import { bindGlobals, boundVersion } from './boundGlobals.mjs';

export default {
  process: (source) => ({ code: bindGlobals(source) }),
  getCacheKey: (source, path) =>
    createHash('sha256').update(boundVersion).update(path).update(source).digest('hex').slice(0, 32),
};
