/** The words of the part `plan` of docs/benchmarks.md. */
const percent = (share) => `${Math.round(100 * share)} %`;

export const planText = ({ children, weeks, away, times, halfTerms, cost }, measuredOn) => `## The plan, lived

${measuredOn} ${children} simulated children over ${weeks} weeks, each away on ${percent(away)} of the days, to be heard ${times} times a week. Every school day the next five are planned from the record as it is then, the first of
them is lived, and the answers of the simulated children are judged. *As often as wanted*: of all children and weeks, those heard ${times} times, or once where they were there on one day. \`npm run bench -- plan\` does this alone.

| | ${halfTerms.map((h) => `${h.adults} ${h.adults === 1 ? 'adult' : 'adults'}, ${h.minutes} minutes each`).join(' | ')} | aim |
|---|${halfTerms.map(() => '---|').join('')}---|
| heard as often as wanted | ${halfTerms.map((h) => percent(h.asOften)).join(' | ')} | 100 % where there is time |
| heard at all in a week | ${halfTerms.map((h) => percent(h.atAll)).join(' | ')} | |
| sessions of a child in all, fewest and most | ${halfTerms.map((h) => `${h.least} to ${h.most}`).join(' | ')} | shared evenly |
| children in a session; alone | ${halfTerms.map((h) => `${h.size.toFixed(1)}; ${percent(h.alone)}`).join(' | ')} | |
| questions at a need of the session's title | ${halfTerms.map((h) => percent(h.fits)).join(' | ')} | 60 % |
| questions at the child’s own need | ${halfTerms.map((h) => percent(h.ofNeed)).join(' | ')} | 5 of 8 at least |
| of those at the working number, an anchor or amounts seen | ${halfTerms.map((h) => percent(h.atNumber)).join(' | ')} | |
| of those with a part of 0 or 1, from the working number five on | ${halfTerms.map((h) => percent(h.short)).join(' | ')} | 1 of 8 at most |
| longest wait of a child who was there, days | ${halfTerms.map((h) => h.longestWait.toFixed(0)).join(' | ')} | |
| work of each adult, minutes a day | ${halfTerms.map((h) => h.work.map((m) => m.toFixed(1)).join(', ')).join(' | ')} | equal |
| questions answered rightly | ${halfTerms.map((h) => percent(h.right)).join(' | ')} | about 80 % |

Planning for 30 children: a day ${cost.dayMs.toFixed(0)} ms, five days with three adults ${cost.weekMs.toFixed(0)} ms (budget 100 ms).
`;
