import * as z from 'zod';

/** Long enough to be safe, short enough to be hashed. */
export const newPassword = z.string().min(12, 'must have at least 12 characters').max(200);
