import { readFile } from 'node:fs/promises';
import type { RosterRead } from '../outside/rosterService';
import { tryRoster } from './readRoster';

export default async (file: string): Promise<RosterRead> => tryRoster(await readFile(file));
