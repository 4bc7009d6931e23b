import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { MIGRATION_NAMES } from './orm';

/**
 * A migration that has run on anybody's database is never edited again: it would not run there a second time, and two databases of the same version would differ. What has to change is a
 * migration of its own, with a line of its own here.
 */
const WRITTEN: Record<string, string> = {
  Migration0001FirstLight: 'ad69c7604ada1f25',
  Migration0002ClassAndOverrule: 'ab6fb164de82a9ac',
  Migration0003Corrections: '9d1f753b338a10c9',
  Migration0004People: 'eca52bb15a7dd645',
  Migration0005Adults: '75fdc961eb25ab3e',
  Migration0006Screens: '306e5606c820f566',
  Migration0007Papers: 'bbfbb2042a9ef9d0',
};

describe('migrations', () => {
  it('are all written down here, in order', () => expect(Object.keys(WRITTEN)).toEqual(MIGRATION_NAMES));

  it.each(Object.entries(WRITTEN))('%s is as it was written', (name, hash) => {
    const text = readFileSync(join(import.meta.dirname, 'migrations', `${name}.ts`));
    expect(createHash('sha256').update(text).digest('hex').slice(0, 16)).toBe(hash);
  });
});
