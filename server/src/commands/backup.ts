import { rename, rm, stat } from 'node:fs/promises';
import { at, BackupTrouble, databaseOf, differences, drop, dump, readInto, rowsIn } from '../backup/dump';

/** `./vane backup FILE`: writes everything to one file, reads it back into a database of its own, and compares. */
const [file, ...rest] = process.argv.slice(2);
const url = process.env['DATABASE_URL'];
if (!url || file === undefined || rest.length > 0) {
  process.stderr.write('usage: ./vane backup FILE\n');
  process.exit(2);
}
const part = `${file}.part`;
const check = `vane_check_${process.pid}`;
try {
  const written = await dump(url, part);
  const found = await readInto(at(url, databaseOf(url)), check, part);
  await drop(url, check);
  const wrong = differences(written, found);
  if (wrong.length > 0) throw new BackupTrouble(`what was read back is not what was written:\n${wrong.join('\n')}`);
  await rename(part, file);
  const { size } = await stat(file);
  process.stdout.write(
    `${file}: ${rowsIn(written)} rows of ${Object.keys(written).length} tables, ${(size / 1e6).toFixed(1)} MB, read back and compared.\n`,
  );
} catch (error) {
  await rm(part, { force: true });
  process.stderr.write(`No backup was made: ${error instanceof Error ? error.message : String(error)}\n`);
  process.exitCode = 1;
}
