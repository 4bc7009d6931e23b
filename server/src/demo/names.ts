import { HARBOUR_CHILDREN } from '@vane/core';

/** The harbour demo: an invented school with invented children and made-up results. */
export const DEMO_ADULT_ID = '0197a000-0000-7000-8000-000000000003';
export const DEMO_SCHOOL = 'Saltmarsh Infants';
/** Printed by `npm start` and shown at the door: the demo holds nothing worth guarding. */
export const DEMO_SIGN_IN = { email: 'keeper@saltmarsh.example', password: 'lanterns-on-the-jetty' };
export const DEMO_ADULT = 'Harbour keeper';
export interface DemoClass {
  readonly id: string;
  readonly name: string;
  readonly children: readonly string[];
  /** Weeks of sittings up to now. */
  readonly weeks: number;
  readonly seed: number;
}
/** One class half a term on, and one that has just begun, of which Vane knows little yet. */
export const DEMO_CLASSES: readonly DemoClass[] = [
  { id: '0197a000-0000-7000-8000-000000000002', name: 'Curlew', children: HARBOUR_CHILDREN, weeks: 6, seed: 20_26 },
  {
    id: '0197a000-0000-7000-8000-000000000004',
    name: 'Sandpiper',
    children: ['Ailsa', 'Eskil', 'Jory', 'Kirra', 'Lumi', 'Maren', 'Nils', 'Perran', 'Sunna', 'Tove'],
    weeks: 1,
    seed: 20_27,
  },
];
