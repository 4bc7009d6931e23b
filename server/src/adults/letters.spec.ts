import type { SchoolView } from '@vane/contract';
import type { Mail } from '../outside/mail';
import { SET_UP, setUp, startHarness, type Browser, type Harness } from '../testing/harness';
import { JobsHere } from '../testing/jobsHere';
import { judgeHere } from '../threads/judgeThreads';
import { workOf } from '../work';

let harness: Harness;
let lead: Browser;
beforeEach(async () => {
  harness = await startHarness();
  lead = harness.browser();
  await setUp(lead);
});
afterEach(() => harness.close());

const INVITE = { name: 'Mate', email: 'mate@quay.example', role: 'teacher', classes: [] };
const invites = async (): Promise<SchoolView['invites']> =>
  ((await (await lead.get('/api/school')).json()) as SchoolView).invites;
const tokenIn = (text: string): string => /\/(?:join|reset)\/([\w-]+)/.exec(text)?.[1] ?? '';
const isGood = async (token: string): Promise<number> => (await harness.browser().get(`/api/join/${token}`)).status;

/** A post that is away, and then is there; what is done with a letter when it is tried. */
function failing(): { tries: (last: boolean) => Promise<void>; repair: () => void; sent: string[] } {
  const sent: string[] = [];
  let away = true;
  const mail: Mail = {
    simulated: false,
    sent: () => Promise.resolve([]),
    send: ({ text }) => (away ? Promise.reject(new Error('away')) : Promise.resolve(void sent.push(text))),
  };
  const post = { mail, publicUrl: 'https://vane.example' };
  const link = harness.orm.em
    .fork()
    .execute<{ schoolId: string; linkId: string }[]>('select school_id as "schoolId", id as "linkId" from adult_link')
    .then(([one = { schoolId: '', linkId: '' }]) => one);
  const work = workOf({ database: harness.database, judge: judgeHere, now: () => harness.clock, backups: null, post });
  return {
    sent,
    repair: () => (away = false),
    tries: async (last) => {
      await work.letter?.({ ...(await link), language: 'en-GB', by: null }, { last, jobs: new JobsHere({}) });
    },
  };
}

it('a letter has a link of its own, and nothing that opens an account waits with it', async () => {
  const asked: object[] = [];
  const other = await harness.another({
    jobs: { ask: (_, data) => void asked.push(data), ofSchool: () => Promise.resolve([]) },
  });
  const theirs = other.browser();
  await theirs.send('POST', '/api/sign-in', { email: SET_UP.email, password: SET_UP.password });
  const made = (await (await theirs.send('POST', '/api/school/invites', INVITE)).json()) as { link: string };
  expect(asked).toHaveLength(1);
  expect(Object.keys(asked[0] ?? {}).sort()).toEqual(['by', 'home', 'language', 'linkId', 'schoolId']);
  expect(await invites()).toMatchObject([{ letter: 'waiting' }]);
  const { tries, repair, sent } = failing();
  repair();
  await tries(false);
  expect(await invites()).toMatchObject([{ letter: 'sent' }]);
  const [text = ''] = sent;
  expect(tokenIn(text)).not.toBe(tokenIn(made.link));
  // Both open the invitation, once.
  expect([await isGood(tokenIn(text)), await isGood(tokenIn(made.link))]).toEqual([200, 200]);
  const join = { token: tokenIn(text), name: 'Mate', password: 'ropes-and-rigging-4' };
  expect((await harness.browser().send('POST', '/api/join', join)).status).toBe(201);
  expect(await isGood(tokenIn(made.link))).toBe(410);
  await other.close();
});

it('links lead to the name by which whoever made them came, where that is one of the schools’ own', async () => {
  const host = 'saltmarsh.vane.example';
  const linkBy = async (headers: Record<string, string>, email: string) =>
    ((await (await lead.send('POST', '/api/school/invites', { ...INVITE, email }, headers)).json()) as { link: string })
      .link;
  expect(await linkBy({ host }, 'a@quay.example')).toMatch(/^https:\/\/saltmarsh\.vane\.example\/join\//);
  expect(await linkBy({ host: 'localhost' }, 'b@quay.example')).toMatch(/^https:\/\/vane\.example\/join\//);
  await lead.send('POST', '/api/forgotten', { email: SET_UP.email }, { host });
  await harness.posted(3);
  // Letters go out side by side.
  const hosts = harness.letters.map(({ text }) => /https:\/\/([^/]+)/.exec(text)?.[1]);
  expect(hosts.sort()).toEqual([host, host, 'vane.example']);
});

it('a letter that could not be sent is tried again; when that is over, the lead sees it', async () => {
  await lead.send('POST', '/api/school/invites', INVITE);
  await lead.get('/api/school');
  const { tries, repair, sent } = failing();
  await expect(tries(false)).rejects.toThrow('away');
  expect((await invites())[0]?.letter).not.toBe('failed');
  await expect(tries(true)).rejects.toThrow('away');
  expect(await invites()).toMatchObject([{ letter: 'failed' }]);
  repair();
  await tries(true);
  expect(await invites()).toMatchObject([{ letter: 'sent' }]);
  expect(await isGood(tokenIn(sent[0] ?? ''))).toBe(200);
});

it('nobody gets a letter whose invitation was withdrawn meanwhile; answers go where the school wants them', async () => {
  await harness.orm.em.fork().execute(`update school set reply_to = 'office@quay.example'`);
  await lead.send('POST', '/api/school/invites', INVITE);
  expect((await harness.posted(1)).map(({ replyTo }) => replyTo)).toEqual(['office@quay.example']);
  const { tries, repair, sent } = failing();
  repair();
  const [invite] = await invites();
  await lead.send('DELETE', `/api/school/invites/${invite?.id ?? ''}`, {});
  await tries(true);
  expect(sent).toEqual([]);
});
