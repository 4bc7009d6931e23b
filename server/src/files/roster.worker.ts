import type { RosterRead } from '../outside/rosterService';
import { tryRoster } from './readRoster';

export default (zip: Uint8Array): RosterRead => tryRoster(zip);
