import { TestBed } from '@angular/core/testing';
import type { ChildRecord } from '@vane/contract';
import { unknownEstimate } from '@vane/core';
import { CHILDREN, configure } from '../testing/page';
import { Door } from './door';
import { SupportForm } from './support';

const record = (change: Partial<ChildRecord> = {}): ChildRecord => ({
  child: CHILDREN[0]!,
  estimate: unknownEstimate('oriel'),
  readings: [],
  moved: [],
  overrules: [],
  notes: [],
  support: { supports: ['larger'], words: 'near the board', by: 'Harbour keeper', madeAt: '2026-11-25T09:00:00.000Z' },
  door: '',
  responses: [],
  sittings: [],
  basis: null,
  ...change,
});

describe('what is being written on a child’s page', () => {
  it('at the door outlives a record that is loaded again, and follows one that says something else', async () => {
    configure();
    const fixture = TestBed.createComponent(Door);
    fixture.componentRef.setInput('record', record());
    fixture.componentRef.setInput('need', { need: 'pairs', whole: 6 });
    await fixture.whenStable();
    const { text } = fixture.componentInstance.form.controls;
    expect(text.value).toMatch(/^Oriel .* At home, put out six small things/);
    text.setValue('half a sentence');
    fixture.componentRef.setInput('record', record({ notes: [] }));
    await fixture.whenStable();
    expect(text.value).toBe('half a sentence');
    fixture.componentRef.setInput('record', record({ door: 'said by somebody else' }));
    await fixture.whenStable();
    expect(text.value).toBe('said by somebody else');
  });

  it('as support does so too', async () => {
    configure();
    const fixture = TestBed.createComponent(SupportForm);
    const { support } = record();
    fixture.componentRef.setInput('childId', 'oriel');
    fixture.componentRef.setInput('support', support);
    await fixture.whenStable();
    const { form } = fixture.componentInstance;
    expect(form.getRawValue()).toMatchObject({ larger: true, pointing: false, words: 'near the board' });
    form.controls.pointing.setValue(true);
    fixture.componentRef.setInput('support', { ...support });
    await fixture.whenStable();
    expect(form.getRawValue().pointing).toBe(true);
    fixture.componentRef.setInput('support', { supports: [], words: '', by: '', madeAt: null });
    await fixture.whenStable();
    expect(form.getRawValue()).toMatchObject({ larger: false, pointing: false, words: '' });
  });
});
