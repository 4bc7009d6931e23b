import { isTimeZone } from '@vane/core';
import * as z from 'zod';

/** Where a school stands: an IANA name that this machine knows. */
export const timeZone = z.string().max(60).refine(isTimeZone, 'is no time zone such as Europe/London');
