import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed } from '@angular/core/testing';
import { MatDatepickerInputHarness } from '@angular/material/datepicker/testing';
import { MatFormFieldHarness } from '@angular/material/form-field/testing';
import { configure } from '../testing/page';
import { DateField } from './dateField';

async function field(inputs: Record<string, string>) {
  configure();
  const fixture = TestBed.createComponent(DateField);
  for (const [name, value] of Object.entries({ label: 'From', ...inputs })) fixture.componentRef.setInput(name, value);
  const picked: string[] = [];
  fixture.componentInstance.picked.subscribe((day) => picked.push(day));
  const loader = TestbedHarnessEnvironment.loader(fixture);
  const input = await loader.getHarness(MatDatepickerInputHarness);
  const errors = async (): Promise<string[]> => (await loader.getHarness(MatFormFieldHarness)).getTextErrors();
  return { fixture, input, picked, errors };
}

describe('a date', () => {
  it('is written day first, and outside as YYYY-MM-DD', async () => {
    const { fixture, input, picked } = await field({ value: '2026-11-05' });
    expect(await input.getValue()).toBe('05/11/2026');
    for (const typed of ['7/11/2026', '08/11/26', '9 Nov 2026', '2026-11-10', '']) await input.setValue(typed);
    expect(picked).toEqual(['2026-11-07', '2026-11-08', '2026-11-09', '2026-11-10', '']);
    fixture.componentRef.setInput('value', '2026-12-01');
    await fixture.whenStable();
    expect(await input.getValue()).toBe('01/12/2026');
  });

  it('that is none, or lies outside what is asked for, stays in the field with the reason, and is not handed on', async () => {
    const { input, picked, errors } = await field({ min: '2026-09-01', max: '2026-11-25' });
    await input.setValue('31/02/2026');
    expect(await errors()).toEqual(['Type a date such as 25/11/2026.']);
    await input.setValue('26/11/2026');
    expect(await errors()).toEqual(['Not after 25/11/2026.']);
    await input.setValue('31/08/2026');
    expect(await errors()).toEqual(['Not before 01/09/2026.']);
    expect([await input.getValue(), picked]).toEqual(['31/08/2026', []]);
  });
});
