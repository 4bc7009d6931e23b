import { readFile } from 'node:fs/promises';
import type { ArchiveRead } from '../threads/archiveRead';
import { readArchive } from './archive';

export default async (file: string): Promise<ArchiveRead> => readArchive(await readFile(file));
