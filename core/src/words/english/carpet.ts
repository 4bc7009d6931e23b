import { pictures } from './facts';
import { factAloud, prompt } from './prompts';
import { reminders } from './support';
import { cautions, groups, options, routines, steps } from './routines';

/** What is said and chosen on the carpet. */
export const carpet = { factAloud, prompt, pictures, routines, groups, steps, options, cautions, reminders };
