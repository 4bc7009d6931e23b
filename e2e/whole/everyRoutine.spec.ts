import '@angular/compiler';
import type { ChildView, LogPage, RecordRow, SittingRow } from '@vane/contract';
import { DEFAULT_CARPET } from '@vane/contract';
import {
  builtNumber,
  english,
  moveAcross,
  newBoard,
  ROUTINE_GROUPS,
  ROUTINES,
  scriptOf,
  seeded,
  toggle,
  USUAL_WORDS,
  type Ask,
  type Board,
  type BoardPlan,
  type Routine,
} from '@vane/core';
import { JSDOM } from 'jsdom';
import { PlayedFrames } from '../../web/src/app/testing/playedFrames';
import { StageRunner } from '../../web/src/app/carpet/measurement/stageRunner';
import { Memory } from '../../web/src/app/testing/played';
import { Sitting } from '../../web/src/app/carpet/sitting/sitting';
import { nextWords } from '../../web/src/app/carpet/prompts';
import { sittingWish } from '../../web/src/app/carpet/sitting/sittingWish';
import { setUp, startHarness, type Harness } from '../../server/src/testing/harness';

/**
 * All routines from their questions to the rows of the database: the page's own sitting and stage on frames played by hand, and the real server. What only a browser can show (keys, touch,
 * what is in view) is tried there, with one routine for each way of answering.
 */

/** What a routine leaves in the record of its first steps, as kind, aid and way of answering. */
const RECORDED: Record<string, readonly string[]> = {
  'learn-frame': [...Array<string>(3).fill('part picture tap'), 'part none build', 'match none build'],
  'make-it': ['match none build', 'missing picture tap', 'add picture tap', 'missing picture tap'],
  'objects-to-numeral': ['match objects show', 'match objects show'],
  'flash-and-say': ['show none tap', 'show none tap'],
  'flash-and-build': ['show none build', 'show second-look build', 'show picture tap'],
  'same-or-different': ['compare none tap', 'compare none tap'],
  'which-more': ['compare none tap', 'missing picture tap', 'missing picture tap'],
  'one-more': ['show none tap', 'add picture tap'],
  'equal-groups': ['groups picture tap', 'groups picture tap'],
  'changing-frame': ['show picture tap', 'missing picture tap', 'show none tap'],
  'talk-about-it': ['show none tap'],
  'to-five': ['missing none tap', 'missing none tap'],
  'hide-and-picture': ['missing none tap', 'missing none tap'],
  'one-cut': ['show picture tap', 'part picture tap', 'bond picture tap', 'part picture tap'],
  stick: ['add picture tap', 'part picture tap', 'bond none tap'],
  'moving-counters': ['part picture tap', 'bond picture tap', 'part picture tap'],
  dominoes: ['add picture tap', 'part picture tap', 'part picture tap', 'add picture tap', 'bond none tap'],
  'part-whole': ['add none tap', 'bond none tap', 'bond none tap'],
  'folded-fingers': ['missing none tap', 'missing none tap'],
  chance: ['bond none tap', 'bond none tap'],
  'all-the-ways': ['ways none tap', 'ways none tap'],
  'five-card': ['show none tap', 'missing picture tap', 'add picture tap', 'subtract picture tap'],
  'ten-card': ['show none tap', 'missing picture tap', 'add picture tap', 'subtract picture tap'],
  story: ['add picture tap', 'add none tap'],
  cards: ['add picture tap', 'add picture tap'],
  sums: ['add none tap', 'add none tap'],
  doubles: ['add none tap', 'add none tap'],
  'crossed-off': ['subtract picture tap', 'add picture tap'],
  'take-away': ['subtract none tap', 'subtract none tap'],
  'missing-part': ['missing none tap', 'missing none tap'],
  // A double has only two sentences: what comes after its first is not the same for every pair.
  family: ['add none tap'],
  'three-parts': ['three none tap'],
  'past-ten': [
    'compare picture tap',
    'missing picture tap',
    'bond picture tap',
    'bridge picture build',
    'part picture tap',
    'bridge picture tap',
  ],
  'hides-ten': ['bridge none tap', 'three none tap'],
  'working-number': ['bond none tap', 'bond none tap'],
  'exit-question': ['bond none tap'],
  close: ['ways picture tap', 'bond prompt tap'],
};

let harness: Harness;
let page: JSDOM;
beforeAll(async () => {
  harness = await startHarness();
  page = new JSDOM();
  globalThis.document = page.window.document;
  globalThis.DOMParser = page.window.DOMParser;
});
afterAll(async () => {
  page.window.close();
  await harness.close();
});

interface Played {
  readonly routine: Routine;
  readonly sitting: SittingRow;
  readonly rows: readonly RecordRow[];
  /** What stood on the stage at every onset. */
  readonly shown: readonly string[];
}

/** Plays a routine by the keys: the first thing that can be pressed, until as many answers are recorded as are looked at. */
async function play(routine: Routine, child: ChildView): Promise<Played> {
  const settings = { ...DEFAULT_CARPET, routine: routine.id };
  const wish = sittingWish(
    { children: [child], settings, choral: false, warmUpOf: () => 'none' },
    { classId: 'class', classmates: [child] },
    seeded(ROUTINES.indexOf(routine) + 1),
  );
  const keeper = new Memory();
  const frames = new PlayedFrames();
  const stage = document.createElement('div');
  const sitting = new Sitting(
    wish,
    keeper,
    () => harness.clock.getTime(),
    (_, then) => {
      then();
      return () => undefined;
    },
  );
  sitting.attach(new StageRunner(stage, frames, sitting, harness.clock.getTime()));
  const shown: string[] = [];
  const wanted = RECORDED[routine.id]!.length;
  for (let step = 0; step < 40 && sitting.moment() !== 'done' && keeper.last().length < wanted; step++) {
    const { want } = sitting.ask();
    if (sitting.moment() === 'ready') sitting.goOn(frames.now());
    const at = frames.until(() => /show|mask|answer/.test(stage.dataset['phase'] ?? ''));
    shown.push(stage.querySelector('.picture')?.innerHTML ?? '');
    if (want.by === 'board') {
      const board = toggle(toggle(newBoard(want.plan), 0), 1);
      sitting.attachBoard(() => board);
      sitting.goOn(at + 900);
    } else if (want.by === 'talk') sitting.goOn(at + 900);
    else if (want.by === 'cut') {
      const free = Array.from({ length: want.count - 1 }, (_, i) => i + 1).find((cut) => !want.cuts.includes(cut));
      sitting.mark(free ?? 0, at + 900);
    } else {
      if (sitting.entered()) sitting.goOn(at + 800);
      sitting.mark(1, at + 900);
      if (want.by === 'pair') {
        expect(sitting.firstPart()).toBe('1');
        sitting.mark(2, at + 1100);
      }
    }
    await new Promise((written) => setImmediate(written));
    if (want.by === 'talk') continue;
    expect([routine.id, sitting.moment()]).toEqual([routine.id, 'answered']);
    if (keeper.last().length < wanted) sitting.goOn(frames.now());
  }
  if (sitting.moment() !== 'done') sitting.end();
  await new Promise((written) => setImmediate(written));
  return { routine, sitting: keeper.sittings[0]!, rows: keeper.last(), shown };
}

describe('every routine', () => {
  let played: Played[];
  let path: string;
  let child: string;
  beforeAll(async () => {
    const browser = harness.browser();
    const made = await setUp(browser);
    path = made.path;
    child = made.children.get('Zadie')!;
    const { children } = (await (await browser.get(path)).json()) as { children: ChildView[] };
    const zadie = children.find((one) => one.id === child)!;
    played = [];
    // What is planned begins on Today, and is played there (today.spec.ts).
    for (const routine of ROUTINES.filter(({ id }) => id !== 'planned')) played.push(await play(routine, zadie));
    for (const { sitting, rows } of played) {
      const answer = await browser.send('POST', `${path}/record`, { sittings: [sitting], responses: rows });
      expect(await answer.json()).toEqual({ accepted: rows.map((r) => r.response_id), already: [], refused: [] });
    }
  });

  it('is in a group of the choice, and in this list', () => {
    expect(ROUTINES.map(({ id }) => id).filter((id) => id !== 'planned')).toEqual(Object.keys(RECORDED));
    for (const { group } of ROUTINES) expect(ROUTINE_GROUPS).toContain(group);
  });

  it.each(Object.entries(RECORDED))('%s: shows its pictures and records what it asks', (id, expected) => {
    const { rows, shown } = played.find((one) => one.routine.id === id)!;
    expect(rows.map((r) => `${r.kind} ${r.aid} ${r.answer_mode}`)).toEqual(expected);
    expect(shown.length).toBeGreaterThanOrEqual(expected.length);
    for (const picture of shown) expect(picture).toContain('<svg');
    for (const row of rows) {
      expect(row.given).not.toBe('');
      expect(row.response_ms !== null && row.response_ms > 0).toBe(true);
    }
  });

  it('is in the database as it was played, once', async () => {
    const browser = harness.browser();
    const { email, password } = { email: 'keeper@saltmarsh.example', password: 'lanterns-on-the-jetty' };
    expect((await browser.send('POST', '/api/sign-in', { email, password })).status).toBe(200);
    const kept: RecordRow[] = [];
    for (;;) {
      const { rows, total } = (await (await browser.get(`${path}/log?offset=${kept.length}`)).json()) as LogPage;
      kept.push(...rows);
      if (kept.length >= total || rows.length === 0) break;
    }
    const sent = played.flatMap(({ rows }) => rows);
    expect(kept).toHaveLength(sent.length);
    const byId = new Map(kept.map((row) => [row.response_id, row]));
    for (const row of sent)
      expect(byId.get(row.response_id)).toMatchObject({
        child,
        fact: row.fact,
        given: row.given,
        kind: row.kind,
        aid: row.aid,
        response_ms: row.response_ms,
        outcome: row.outcome,
      });
  });
});

/** Counters laid so that so many were put, or moved to the first frame; null where so many cannot be. */
function built(plan: BoardPlan, n: number): Board | null {
  let board = newBoard(plan);
  const second = board.length / plan.frames;
  for (let i = 0; i < n; i++) board = plan.moves ? moveAcross(board, board.lastIndexOf(true)) : toggle(board, i);
  return n <= second && builtNumber(plan, board) === n ? board : null;
}

/** One question alone, and one answer to it: what the adult reads, what stands in view, and the row. */
async function answerOne(ask: Ask, given: string) {
  const child = { id: 'zadie', nickname: 'Zadie' };
  const keeper = new Memory();
  const frames = new PlayedFrames();
  const stage = document.createElement('div');
  const settings = { ...DEFAULT_CARPET, readyMs: null };
  const alone = { choral: false, open: false, shared: false, follow: () => [] };
  const wish = { ...alone, classId: 'class', settings, children: [child], classmates: [child], turns: [{ child: 'zadie', ask }] }; // prettier-ignore
  const sitting = new Sitting(wish, keeper, () => harness.clock.getTime());
  sitting.attach(new StageRunner(stage, frames, sitting, harness.clock.getTime()));
  sitting.goOn(frames.now());
  const at = frames.until(() => /show|mask|answer/.test(stage.dataset['phase'] ?? ''));
  if (given === '') sitting.noAnswer();
  else if (ask.want.by === 'board') {
    const board = built(ask.want.plan, Number(given));
    if (board === null) return null;
    sitting.attachBoard(() => board);
    sitting.goOn(at + 900);
  } else {
    if (sitting.entered()) sitting.goOn(at + 800);
    sitting.answer(given, at + 900);
  }
  await new Promise((written) => setImmediate(written));
  const seen = stage.dataset['phase'] === 'laid' || stage.hasAttribute('data-stays');
  return { sitting, row: keeper.last()[0], seen };
}

describe.each(ROUTINES.map((routine) => [routine.id, routine] as const))('%s, with every outcome', (_, routine) => {
  it('says what fits, keeps in view what stays, and leaves a row', async () => {
    const asked = scriptOf(routine).filter(({ ask }) => !['talk', 'cut'].includes(ask.want.by));
    for (const { ask, answers } of asked) {
      for (const { given, outcome, reply } of answers) {
        const played = await answerOne(ask, given);
        if (played === null) continue;
        const { sitting, row, seen } = played;
        const at = [ask.prompt.say, ask.fact, given];
        expect([...at, nextWords(sitting, 'Zadie')]).toEqual([...at, english.prompt(reply.say, USUAL_WORDS)]);
        // A picture that is not covered is there until the next question; one that was flashed is not.
        const laid = ask.want.by === 'pair' && given !== '';
        expect([...at, seen]).toEqual([...at, !ask.flash || laid]);
        if (ask.fact === null) expect(ask.prompt.say).toBe('child-sets');
        else {
          const expected = outcome === 'right' ? 'correct' : outcome === 'none' ? 'none' : 'wrong';
          const said = ask.want.by === 'pair' ? row?.outcome : expected;
          expect([...at, row]).toEqual([...at, expect.objectContaining({ fact: ask.fact, given, outcome: said, aid: ask.aid })]); // prettier-ignore
        }
      }
    }
    expect(asked.length).toBeGreaterThan(0);
  });
});
