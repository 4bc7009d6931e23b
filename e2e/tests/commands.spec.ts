import { expect, test } from '@playwright/test';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** The commands that work from files alone, run as a teacher's colleague would. */
function vane(...args: string[]): { status: number | null; lines: string[]; trouble: string } {
  const ran = spawnSync(join(import.meta.dirname, '../../vane'), args, { encoding: 'utf8', maxBuffer: 64 * 1024 * 1024 });
  return { status: ran.status, lines: ran.stdout.trim().split('\n'), trouble: ran.stderr };
}

test('a simulated class is judged and planned from its file; a bad file ends with 2 and is named', () => {
  test.setTimeout(200_000);
  const folder = mkdtempSync(join(tmpdir(), 'vane-commands-'));
  expect(vane('rehearse', '--out', folder, '--seed', '5', '--children', '3', '--weeks', '4').status).toBe(0);
  const file = join(folder, 'responses.csv');
  const child = readFileSync(file, 'utf8').split('\n')[1]?.split(',')[1] ?? '';

  const judged = vane('judge', file);
  expect([judged.status, judged.lines[0]]).toEqual([0, 'child,fact,reading,p_automatic,lean,certainty,responses,days,reason']);

  for (const aim of ['judge', 'practise']) {
    const planned = vane('plan', file, '--child', child, '--count', '9', '--aim', aim);
    expect([planned.status, planned.lines[0], planned.lines.length]).toEqual([0, 'order,child,fact,reading,p_automatic,reason', 10]);
    expect(planned.lines[1]).toMatch(new RegExp(`^1,${child},.*,sure-start$`));
    expect(vane('plan', file, '--child', child, '--count', '9', '--aim', aim).lines).toEqual(planned.lines);
  }

  const broken = join(folder, 'broken.csv');
  writeFileSync(broken, 'child,fact\nOriel,3+4\n');
  for (const wrong of [
    ['plan', broken, '--child', child],
    ['judge', join(folder, 'nowhere.csv')],
    ['plan', file, '--child', 'nobody'],
    ['plan', file, '--child', child, '--aim', 'win'],
    ['plan', file, '--child', child, '--count', 'many'],
    ['judge', file, '--as-of', 'tomorrow'],
  ])
    expect([wrong.slice(0, 1), vane(...wrong).status]).toEqual([wrong.slice(0, 1), 2]);
  expect(vane('judge', join(folder, 'nowhere.csv')).trouble).toContain('nowhere.csv: ENOENT');
});
