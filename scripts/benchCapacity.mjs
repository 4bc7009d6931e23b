/** The words of the part `capacity` of docs/benchmarks.md. */

/** What an hour of a machine with two processors costs, in any money: VANE_MACHINE_HOUR. */
const MACHINE_HOUR = Number(process.env.VANE_MACHINE_HOUR ?? 0.1);
const PROCESSORS = 2;
/** Answers of a school in a year: 90 children, 5000 each. */
const SCHOOL_YEAR = 90 * 5000;

export function capacityText({ schools, responses, seconds, bytes }, found, measuredOn) {
  const line = (count, one) =>
    `| ${count} | ${one.times} | ${Math.round(one.wanted)} | ${Math.round(one.answers)} | ${one.failed} | ${[one.p50, one.p99, one.classP50, one.classP99].map((value) => (Number.isFinite(value) ? Math.round(value) : 'none')).join(' | ')} | ${['web', 'worker', 'database', 'generator'].map((who) => one.cpuMs[who].toFixed(1)).join(' | ')} |`;
  const bends = ({ count, steps }) => {
    const kept = steps.filter((one) => one.p99 <= 1000);
    const lost = steps.find((one) => !(one.p99 <= 1000));
    const from = kept.length > 0 ? Math.round(kept[kept.length - 1].wanted) : 0;
    return `${count}: between ${from} and ${lost ? Math.round(lost.wanted) : 'more'} answers/s`;
  };
  const [usual] = found[0].steps;
  const spentMs = usual.cpuMs.web + usual.cpuMs.worker + usual.cpuMs.database;
  const hours = (spentMs * SCHOOL_YEAR) / 3_600_000 / PROCESSORS;
  return `## A morning of many schools

${measuredOn} ${schools.length} schools with a class of 24 each and ${responses} answers, loaded and judged in ${Math.round(seconds)} s; ${(bytes / schools.length / 1e6).toFixed(2)} MB a school with all indexes, ${Math.round(bytes / responses)} bytes an answer, readings and all else included. Then, for 20 s each: once = every school has one session under way, an answer each two and a half seconds,
and opens Class once a minute. Requests are sent when they are due, whether or not earlier ones are answered; times count from then. nginx with HTTPS, servers that answer, one that judges, PostgreSQL and the generator of the load share the two processors: four servers show that it is right with four, not that it is quicker. \`npm run bench -- capacity\` does this alone.

| servers that answer | times | wanted, answers/s | answered/s | not answered | an answer, p50 ms | p99 | Class, p50 ms | p99 | processor ms an answer: web | judging | PostgreSQL | generator |
|---|---|---|---|---|---|---|---|---|---|---|---|---|
${found.flatMap(({ count, steps }) => steps.map((one) => line(count, one))).join('\n')}

“none” = more than one in a hundred (or one in two) was not answered within fifteen seconds of being sent. Where 99 in a hundred answers no longer come within a second, by servers that answer: ${found.map(bends).join('; ')}.

![Milliseconds of the slowest answer in a hundred against answers a second, both by powers of ten, for one server and for four](figures/capacity.png)

A school of 90 children with ${SCHOOL_YEAR} answers a year would take ${hours.toFixed(1)} hours of such a machine at the cost of the first line, ${(hours * MACHINE_HOUR).toFixed(2)} at ${MACHINE_HOUR} an hour (\`VANE_MACHINE_HOUR\`), if it were always as busy as that; and ${((SCHOOL_YEAR * bytes) / responses / 1e9).toFixed(2)} GB of disk.
`;
}
