// SWC for Jest, with the language's own globals bound.
import swc from '@swc/jest';
import { bindGlobals, boundVersion } from './boundGlobals.mjs';

const bound = (result) => ({ ...result, code: bindGlobals(result.code) });

export default {
  createTransformer(options) {
    const made = swc.createTransformer(options);
    return {
      ...made,
      process: (...of) => bound(made.process(...of)),
      processAsync: async (...of) => bound(await made.processAsync(...of)),
      getCacheKey: (...of) => `${made.getCacheKey(...of)}${boundVersion.slice(0, 8)}`,
    };
  },
};
