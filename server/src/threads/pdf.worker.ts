import { pdfOf, type Print } from './pdf';

export default (print: Print): Promise<Uint8Array> => pdfOf(print);
