import { carpet } from './carpet';
import { general } from './general';
import * as prints from './prints';
import { imports } from './imports';
import { pages } from './pages';
import { problems } from './problems';
import { acts, letters } from './school';

/** British English. */
export const english = {
  language: 'en-GB',
  ...general,
  ...carpet,
  pages,
  prints: { ...prints },
  problems,
  imports,
  acts,
  letters,
};
