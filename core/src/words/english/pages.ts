import * as classPage from './classPage';
import { measured } from './measuring';
import * as evidence from './evidence';
import { door } from './parents';
import { supports } from './support';

/** What the pages of a child and of the class say, and what a child's support is: loaded with them. */
export const pages = { classPage: { ...classPage }, measured, evidence: { ...evidence }, door, supports };
