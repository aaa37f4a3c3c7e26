// SWC for Jest, with the language's own globals bound once a module. In a test's sandbox every look at a global asks the
// sandbox's keeper first, which makes loops over numbers ten times slower than in the application.
import swc from '@swc/jest';

const GLOBALS = [
  'Math',
  'Number',
  'Array',
  'Object',
  'Float64Array',
  'Float32Array',
  'Uint8Array',
  'Int32Array',
  'Map',
  'Set',
  'String',
  'JSON',
  'Infinity',
  'NaN',
  'undefined',
];

/** Binds on the first line, so that the lines of an error stay where they are; names the module has itself are left. */
function bindGlobals(code) {
  const used = GLOBALS.filter(
    (name) =>
      new RegExp(`\\b${name}\\b`).test(code) &&
      !new RegExp(`import[^;]*\\b${name}\\b|(function|class)\\s+${name}\\b|\\b${name}\\s*=[^=]`).test(code),
  );
  return used.length ? `const { ${used.join(', ')} } = globalThis; ${code}` : code;
}

const bound = (result) => ({ ...result, code: bindGlobals(result.code) });

export default {
  createTransformer(options) {
    const made = swc.createTransformer(options);
    return {
      ...made,
      canInstrument: false,
      process: (...of) => bound(made.process(...of)),
      processAsync: async (...of) => bound(await made.processAsync(...of)),
      getCacheKey: (...of) => `${made.getCacheKey(...of)}-bound2`,
    };
  },
};
