import fc from 'fast-check';

/** What `npm run test:all` runs beside `npm test`: properties are tried more often, and whole classes are judged. */
export const LONG = process.env['VANE_LONG'] === '1';

/** How often a property is tried in this run. */
export const TRIES = LONG ? 1000 : 25;
fc.configureGlobal({ numRuns: TRIES });

/** fast-check with as many runs as this run of the tests has time for; a failure names its seed. */
export default fc;
