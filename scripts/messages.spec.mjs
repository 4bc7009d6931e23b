import { describe, expect, it } from '@jest/globals';
import { faultsOf } from './messages.mjs';

describe('the messages of a language', () => {
  it('say what is missing and what is no longer used', () => {
    expect(faultsOf('xx', { 1: 'Opslaan', 3: 'Oud' }, { 1: 'Save', 2: 'Cancel' })).toEqual([
      'xx: missing: 2 “Cancel”',
      'xx: not used: 3 “Oud”',
    ]);
    expect(faultsOf('xx', { 1: 'Opslaan' }, { 1: 'Save' })).toEqual([]);
  });
});
