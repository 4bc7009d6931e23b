import { TestBed } from '@angular/core/testing';
import { toResponse, toRow, type ChildRecord, type RecordRow } from '@vane/contract';
import {
  CLASS_BEFORE,
  DEFAULT_READING_SETTINGS,
  judgeChildren,
  MODEL_VERSION,
  unknownEstimate,
  type Response,
} from '@vane/core';
import { someResponse } from '@vane/core/testing/response';
import { Outbox } from '../outbox/outbox';
import { CHILDREN, configure } from '../testing/page';
import type { JudgeWish } from './judgeTask';
import { JUDGE_HERE, OwnJudge } from './ownJudge';

const DAY = 86_400_000;
const answer = (day: number, responseMs: number): Response =>
  someResponse({
    id: `r${day}`,
    child: 'oriel',
    sitting: `s${day}`,
    shownAt: Date.UTC(2026, 10, 2) + day * DAY,
    responseMs,
  });
const BASIS = { values: CLASS_BEFORE, settings: DEFAULT_READING_SETTINGS, modelVersion: MODEL_VERSION };

function judgeWith(kept: readonly RecordRow[]) {
  configure();
  const wishes: JudgeWish[] = [];
  const judge = (wish: JudgeWish) => {
    wishes.push(wish);
    return Promise.resolve(judgeChildren(wish.responses, wish.values, { settings: wish.settings })[0] ?? null);
  };
  TestBed.overrideProvider(JUDGE_HERE, { useValue: judge });
  TestBed.overrideProvider(Outbox, {
    useValue: { keptOf: (child: string) => Promise.resolve(kept.filter((row) => row.child === child)) },
  });
  return { own: TestBed.inject(OwnJudge), wishes };
}

describe('a record with what the server has not taken yet', () => {
  const there = [0, 1, 2, 3].map((day) => answer(day, 900));
  const judged = judgeChildren(there, BASIS.values, { settings: BASIS.settings })[0];
  const record: ChildRecord = {
    child: CHILDREN[0]!,
    estimate: unknownEstimate('oriel'),
    readings: judged?.readings ?? [],
    moved: null,
    overrules: [],
    notes: [],
    support: { supports: [], words: '', by: '', madeAt: null },
    door: '',
    sittings: [],
    responses: there.map((r) => toRow(r)),
    basis: BASIS,
  };

  it('is judged here as the server will judge it, each answer once', async () => {
    const fresh = [4, 5, 6, 7, 8].map((day) => answer(day, 3500));
    const { own } = judgeWith([...fresh, there[3]!].map((r) => toRow(r)));
    const both = await own.withKept(record);
    expect(both.responses.map((r) => r.response_id)).toEqual(['r0', 'r1', 'r2', 'r3', 'r4', 'r5', 'r6', 'r7', 'r8']);
    expect(both.readings).toEqual(
      judgeChildren(both.responses.map(toResponse), BASIS.values, { settings: BASIS.settings })[0]?.readings,
    );
    expect(both.moved?.map((m) => m.fact)).toContain('3+4');
    expect(both.child.lastAskedAt).toBe(new Date(fresh[4]!.shownAt).toISOString());
  });

  it('is left as it is when nothing of this child waits', async () => {
    const { own, wishes } = judgeWith([toRow({ ...answer(9, 900), child: 'tamsin' }), toRow(there[0]!)]);
    expect(await own.withKept(record)).toBe(record);
    expect(wishes).toEqual([]);
  });

  it('is left as it is when the server judges by another model', async () => {
    const { own, wishes } = judgeWith([toRow(answer(9, 3500))]);
    const elsewhere = { ...record, basis: { ...BASIS, modelVersion: 'field-0' } };
    expect(await own.withKept(elsewhere)).toBe(elsewhere);
    expect(wishes).toEqual([]);
    expect((await own.withKept(record)).responses).toHaveLength(5);
  });
});
