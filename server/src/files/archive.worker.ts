import type { ArchiveRead } from '../threads/archiveRead';
import { readArchive } from './archive';

export default (json: Uint8Array): ArchiveRead => readArchive(json);
