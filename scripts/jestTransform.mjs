import swc from '@swc/jest';

/**
 * TypeScript for Jest, by swc. Jest runs each file in a context of its own, in which every use of a global is looked up by a slow interceptor: what computes a class takes more than twice as
 * long by that alone. So every module begins by naming the globals that computing uses.
 */
const NAMES = ['Array', 'Float64Array', 'Infinity', 'Map', 'Math', 'NaN', 'Number', 'Object', 'Set', 'String'];
export const NAMED_GLOBALS = NAMES.map((name) => `const ${name} = globalThis.${name};`).join(' ');
// On the first line, so that places in errors stay what they are.
const withNames = (made) => ({ ...made, code: `${NAMED_GLOBALS} ${made.code}` });

export default {
  createTransformer(options) {
    const inner = swc.createTransformer(options);
    return {
      ...inner,
      process: (...args) => withNames(inner.process(...args)),
      processAsync: async (...args) => withNames(await inner.processAsync(...args)),
      getCacheKey: (...args) => `${inner.getCacheKey(...args)}-${NAMES.length}`,
    };
  },
};
