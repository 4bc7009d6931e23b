import { fact, layouts, pictures } from './facts';
import { capital, counted, inLetters, listed, seconds } from './numbers';
import * as plan from './plan';
import * as prints from './prints';
import { problems } from './problems';
import { factAloud, prompt } from './prompts';
import * as readings from './readings';
import * as record from './record';
import { cautions, groups, options, routines } from './routines';
import { acts, letters } from './school';

/** British English. */
export const english = {
  language: 'en-GB',
  fact,
  factAloud,
  prompt,
  layouts,
  pictures,
  routines,
  groups,
  options,
  cautions,
  counted,
  capital,
  inLetters,
  listed,
  seconds,
  readings: { ...readings },
  record: { ...record },
  plan: { ...plan },
  prints: { ...prints },
  problems,
  acts,
  letters,
};
