import { doTasks } from '../threads/thread';
import { tryRoster } from './readRoster';

doTasks((zip: Uint8Array) => tryRoster(zip));
