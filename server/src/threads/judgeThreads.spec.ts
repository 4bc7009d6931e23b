import {
  CLASS_BEFORE,
  classValues,
  DEFAULT_READING_SETTINGS,
  judgeChildren,
  simulateClass,
  type Response,
} from '@vane/core';
import { build } from 'esbuild';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { JudgeThreads } from './judgeThreads';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'vane-judge-'));
  await build({
    entryPoints: [join(import.meta.dirname, 'judge.worker.ts')],
    outfile: join(folder, 'worker.mjs'),
    bundle: true,
    platform: 'node',
    format: 'esm',
    logLevel: 'error',
  });
  await writeFile(join(folder, 'dying.mjs'), 'export default () => process.exit(3);');
});
afterAll(() => rm(folder, { recursive: true }));

/** Threads are closed whatever a test finds: one left running would keep the whole run from ending. */
const opened: JudgeThreads[] = [];
function open(script: string): JudgeThreads {
  const thread = new JudgeThreads(pathToFileURL(join(folder, script)));
  opened.push(thread);
  return thread;
}
afterEach(() => Promise.all(opened.splice(0).map((thread) => thread.close())));

const options = { settings: DEFAULT_READING_SETTINGS };
const someResponses = (): readonly Response[] => {
  let id = 0;
  return simulateClass({
    seed: 2,
    names: ['Ivo', 'Odo'],
    weeks: 2,
    until: Date.UTC(2026, 5, 1),
    makeId: () => String(id++),
  }).responses;
};

describe('the judging threads', () => {
  it('gives the same readings as judging here', async () => {
    const thread = open('worker.mjs');
    const responses = someResponses();
    const values = await thread.learn(responses);
    expect(values).toEqual(classValues(responses));
    const both = await Promise.all([thread.judge(responses, values, options), thread.judge([], values, options)]);
    expect(both).toEqual([judgeChildren(responses, values, options), []]);
  });

  it('share the children of a class, and lose none, whoever answered most', async () => {
    const threads = open('worker.mjs');
    const [first] = someResponses();
    const names = ['Ivo', 'Odo', 'Wren', 'Pelle', 'Kesi'];
    for (const most of names) {
      const responses = names.flatMap((child) =>
        Array.from({ length: child === most ? 30 : 3 }, (_, i) => ({ ...first!, id: `${child}${i}`, child })),
      );
      const judged = await threads.judge(responses, CLASS_BEFORE, options);
      expect(judged).toEqual(judgeChildren(responses, CLASS_BEFORE, options));
      expect(judged.map(({ estimate }) => estimate.child)).toEqual(names);
    }
  });

  it('fails with the reason when a response cannot be judged, and goes on', async () => {
    const thread = open('worker.mjs');
    const asked = someResponses().find((r) => r.kind === 'show');
    const broken = { ...asked!, fact: 'nonsense' };
    await expect(thread.judge([broken], CLASS_BEFORE, options)).rejects.toThrow(/nonsense/);
    expect(await thread.judge([], CLASS_BEFORE, options)).toEqual([]);
  });

  it('tells when the thread dies, and starts another for the next', async () => {
    const thread = open('dying.mjs');
    await expect(thread.judge([], CLASS_BEFORE, options)).rejects.toThrow(/code: 3/);
    await expect(thread.judge([], CLASS_BEFORE, options)).rejects.toThrow(/code: 3/);
  });
});
