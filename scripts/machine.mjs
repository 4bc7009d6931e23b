import { readFileSync } from 'node:fs';
import { cpus } from 'node:os';

/** How quick and how quiet the machine is while something is measured on it. */

/** Processor time since the machine started, in ticks: asked for, and of that taken by other machines on the same host ("steal"; none where that is not told). */
function processorTime() {
  const [user, nice, system, , , interrupts, soft, stolen] = readFileSync('/proc/stat', 'utf8')
    .split(/\s+/, 9)
    .slice(1)
    .map(Number);
  return { wanted: user + nice + system + interrupts + soft + stolen, stolen };
}

/** A plain loop of a hundred million additions, ms; about 60 on a quick machine. */
function loopMs() {
  const started = performance.now();
  let sum = 0;
  for (let i = 0; i < 1e8; i++) sum += i & 3;
  const took = performance.now() - started;
  if (sum !== 150_000_000) throw new Error('the loop was not run');
  return took;
}

let began = null;

export function beginMeasuring() {
  began = { ...processorTime(), loopMs: loopMs() };
}

/** When and on what a part was measured, in words. */
export function measuredOn() {
  const now = processorTime();
  const stolen = (100 * (now.stolen - began.stolen)) / Math.max(1, now.wanted - began.wanted);
  const [before, after] = [began.loopMs, loopMs()].map(Math.round);
  return `Measured on ${new Date().toISOString().slice(0, 10)}; ${cpus().length} cores, Node.js ${process.version}. A plain loop of a hundred million additions, about 60 ms on a quick machine, took ${before} ms before and ${after} ms after; of the processor time asked for, ${stolen.toFixed(1)} % went to other machines on the same host. Compare ratios.`;
}
