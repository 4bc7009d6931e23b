import { ROUTINES, routineOf, scriptInWords, scriptOf } from '@vane/core';

/** `./vane script [ROUTINE]`: how a routine is played, to be read aloud; all of them without a name. docs/scripts.md holds them. */
const [id, ...rest] = process.argv.slice(2);
if (rest.length > 0) {
  process.stderr.write('usage: ./vane script [ROUTINE]\n');
  process.exit(2);
}
try {
  const wanted = id === undefined ? ROUTINES : [routineOf(id)];
  process.stdout.write(`${wanted.map((routine) => scriptInWords(routine.id, scriptOf(routine))).join('\n\n')}\n`);
} catch (error) {
  if (!(error instanceof RangeError)) throw error;
  process.stderr.write(`${error.message}; there are: ${ROUTINES.map((routine) => routine.id).join(', ')}\n`);
  process.exit(2);
}
