import { DAY_MS } from '@vane/core';

/** For so long a device may show what it kept of the record, ms: a fortnight's holiday is bridged by it. */
export const COPIES_LAST_MS = 16 * DAY_MS;
