import { afterAll, afterEach } from '@jest/globals';

/**
 * What is written to the console as an error or a warning fails the test that it was written in, unless the test expects it: a spy on `console.error` takes it out of sight of this.
 */
const said = [];
for (const kind of ['error', 'warn']) {
  console[kind] = (...words) =>
    said.push(`console.${kind}: ${words.map((word) => (word instanceof Error ? word.stack : String(word))).join(' ')}`);
}
const warned = (warning) => {
  // Jest runs ES modules by a feature that Node.js still calls experimental.
  if (warning.name !== 'ExperimentalWarning') said.push(`Node.js warns: ${warning.stack ?? String(warning)}`);
};
process.on('warning', warned);
function nothingSaid() {
  const now = said.splice(0);
  if (now.length > 0) throw new Error(`not expected on the console:\n${now.join('\n')}`);
}
afterEach(nothingSaid);
afterAll(() => {
  process.off('warning', warned);
  nothingSaid();
});
