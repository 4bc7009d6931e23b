import swc from '@swc/jest';
import { NAMED_GLOBALS } from './namedGlobals.mjs';

/** TypeScript for Jest, by swc. The globals are named on the first line, so that places in errors stay what they are. */
const withNames = (made) => ({ ...made, code: `${NAMED_GLOBALS} ${made.code}` });

export default {
  createTransformer(options) {
    const inner = swc.createTransformer(options);
    return {
      ...inner,
      process: (...args) => withNames(inner.process(...args)),
      processAsync: async (...args) => withNames(await inner.processAsync(...args)),
      getCacheKey: (...args) => `${inner.getCacheKey(...args)}-${NAMED_GLOBALS.length}`,
    };
  },
};
