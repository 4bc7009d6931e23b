import { fact, factHead, layouts } from './facts';
import { capital, counted, inLetters, listed, seconds } from './numbers';
import * as plan from './plan';
import * as readings from './readings';
import * as record from './record';

/** What most places say: facts, numbers, readings, the plan, the record. */
export const general = {
  fact,
  factHead,
  layouts,
  counted,
  capital,
  inLetters,
  listed,
  seconds,
  readings: { ...readings },
  plan: { ...plan },
  record: { ...record },
};
