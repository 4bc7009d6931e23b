import { judgeHere, type Judge } from '../threads/judgeThreads';
import { setUp, startHarness } from '../testing/harness';
import { rowFor, SITTING } from '../testing/rows';

it('a server that stops lets what is being judged end first, although nobody waits for it', async () => {
  let letGo = (): void => undefined;
  let begin = (): void => undefined;
  const begun = new Promise<void>((resolve) => (begin = resolve));
  const allowed = new Promise<void>((go) => (letGo = go));
  const judge: Judge = {
    ...judgeHere,
    judge: async (...asked) => {
      begin();
      await allowed;
      return judgeHere.judge(...asked);
    },
  };
  const ends: (() => Promise<void>)[] = [];
  const harness = await startHarness({ judge, closing: (end) => ends.push(end) });
  const browser = harness.browser();
  const { path, children } = await setUp(browser);
  await browser.send('POST', `${path}/record`, { sittings: [SITTING], responses: [rowFor(children.get('Odo') ?? '')] });
  // A child who is not judged yet is judged for whoever opens the page.
  const answer = browser.get(`${path}/children/${children.get('Odo')}`);
  await begun;

  let stopped = false;
  const stopping = Promise.all(ends.map((end) => end())).then(() => (stopped = true));
  await new Promise((later) => setTimeout(later, 50));
  expect(stopped).toBe(false);
  letGo();
  await stopping;
  expect((await answer).status).toBe(200);
  await harness.close();
});
