import { doTasks } from '../thread';
import { tryRoster } from './readRoster';

doTasks((zip: Uint8Array) => tryRoster(zip));
