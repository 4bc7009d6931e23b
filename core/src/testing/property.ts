import fc from 'fast-check';

/** `npm run test:long`: properties are tried more often, and whole classes are judged. */
export const LONG = process.env['VANE_LONG'] === '1';

fc.configureGlobal({ numRuns: LONG ? 1000 : 25 });

/** fast-check with as many runs as this run of the tests has time for; a failure names its seed. */
export default fc;
