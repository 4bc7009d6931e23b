import { doTasks } from './thread';
import { pdfOf, type Print } from './pdf';

doTasks((print: Print) => pdfOf(print));
