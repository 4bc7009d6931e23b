/** The harbour demo: an invented school with invented children and made-up results. */
export const DEMO_SCHOOL_ID = '0197a000-0000-7000-8000-000000000001';
export const DEMO_CLASS_ID = '0197a000-0000-7000-8000-000000000002';
export const DEMO_ADULT_ID = '0197a000-0000-7000-8000-000000000003';
export const DEMO_SCHOOL = 'Saltmarsh Infants';
export const DEMO_CLASS = 'Curlew';
/** Printed by `npm start` and shown at the door: the demo holds nothing worth guarding. */
export const DEMO_SIGN_IN = { email: 'keeper@saltmarsh.example', password: 'lanterns-on-the-jetty' };
export const DEMO_ADULT = 'Harbour keeper';
