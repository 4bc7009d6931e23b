/**
 * Jest runs each file in a context of its own, in which every use of a global is looked up by a slow interceptor: what computes a class takes more than twice as long by that alone. So every
 * module begins by naming the globals that computing uses.
 */
const NAMES = ['Array', 'Float64Array', 'Infinity', 'Map', 'Math', 'NaN', 'Number', 'Object', 'Set', 'String'];
export const NAMED_GLOBALS = NAMES.map((name) => `const ${name} = globalThis.${name};`).join(' ');
