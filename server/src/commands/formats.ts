import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { formatFiles } from '../files/formatFiles';

/** `./vane formats DIR`: writes the schemas and examples of every format; docs/formats holds them. */
const [folder, ...rest] = process.argv.slice(2);
if (folder === undefined || rest.length > 0) {
  process.stderr.write('usage: ./vane formats DIR\n');
  process.exit(2);
}
await mkdir(folder, { recursive: true });
for (const [name, text] of formatFiles()) await writeFile(join(folder, name), text);
