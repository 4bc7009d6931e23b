/** The words of the parts `quality` and `settling` of docs/benchmarks.md. */
const three = (x) => x.toFixed(3);
const percent = (share) => (share === null ? '–' : `${Math.round(100 * share)} %`);

const quality = ({ seeds, children, weeks, rows }) => {
  const line = (condition, q) =>
    `| ${condition} | ${q.facts} | ${three(q.ours)} | ${three(q.rule)} | ${three(q.told)} | ${percent(q.closed)} | ${three(q.calibration)} | ${three(q.area)} | ${q.said.toFixed(2)} / ${q.true.toFixed(2)} | ${(100 * q.knowsRight).toFixed(1)} % |`;
  const table = (
    which,
  ) => `| condition | facts | Brier | rule | told | closed | calibration error | area | said / true, 0.2 to 0.7 | knows, rightly |
|---|---|---|---|---|---|---|---|---|---|
${rows.map((row) => line(row.condition, row[which])).join('\n')}`;
  return `\`p_automatic\` against the truth of simulated classes (${children} children, ${weeks} weeks, every fact that was asked): is the retrieval share at least 0.8? The simulated children are made of other
distributions than the judgement assumes, and nothing in it is fitted to them. *Rule* is the usual rule of thumb, four of the last five right and their median within three seconds, as a yes or a no. *Told* is a judge
who knows each child's true times, the adult's true ways of marking and how the simulator draws what children know and how that changes, and looks at one fact at a time. *Closed* is how much of the distance
from the rule to the one who is told Vane goes: (rule − Brier) / (rule − told); above 100 % what is learned from a child's other facts and from the class weighs more than being told. Brier score and
calibration error: lower is better; area under the curve: higher is better.

Seeds ${seeds.unseen.join(' and ')}, which were not looked at while the model was made:

${table('unseen')}

Seeds ${seeds.looked.join(' and ')}, which were:

${table('looked')}
`;
};

const words = (conditions) => {
  const cell = ({ share, right }) => `${percent(share)} (${percent(right)})`;
  const names = conditions[0].after[0].words.map(({ word }) => word);
  return `## Which words a class ends with

Of all facts that were asked, the share that reads as each word after so many weeks, and in brackets how often it is right: that what *knows* is known, and what *works out*, *counts* or *not yet* is not; of
what settles nothing, how much is known. Seed 31.

| condition | weeks | ${names.join(' | ')} |
|---|---|${names.map(() => '---|').join('')}
${conditions.flatMap(({ condition, after }) => after.map((a) => `| ${condition} | ${a.weeks} | ${a.words.map(cell).join(' | ')} |`)).join('\n')}
`;
};

const ratio = ({ planned, shuffled }) => planned.mean / shuffled.mean;
const mean = (rows) => rows.reduce((sum, row) => sum + ratio(row), 0) / rows.length;

export const settlingText = (rows, measuredOn) => `## How many answers it takes

${measuredOn} Answers of one child, from nothing, until nine tenths of the 198 facts within ten are read rightly (known or not), twelve a sitting, one sitting a day, warm-up included: *planned* by the aim "find out what is known",
against every fact in turn in a shuffled order. ${rows[0].children} children a condition, at most ${rows[0].most} answers each. Middle and mean; the ratio aimed at is 0.65 in the mean, and none above 0.85: it is ${mean(rows).toFixed(2)} in the mean of all conditions, and ${Math.max(...rows.map(ratio)).toFixed(2)} in the worst. Single children vary a lot, and a few never get there; those count with the most.

| condition | planned, middle | shuffled, middle | ratio | planned, mean | shuffled, mean | ratio | not settled, planned | shuffled |
|---|---|---|---|---|---|---|---|---|
${rows.map((s) => `| ${s.condition} | ${s.planned.middle} | ${s.shuffled.middle} | ${(s.planned.middle / s.shuffled.middle).toFixed(2)} | ${s.planned.mean.toFixed(0)} | ${s.shuffled.mean.toFixed(0)} | ${ratio(s).toFixed(2)} | ${s.planned.open} | ${s.shuffled.open} |`).join('\n')}
`;

export const qualityText = (figures, measuredOn) => `## How good the readings are

${measuredOn} ${quality(figures.quality)}
${words(figures.words)}`;
