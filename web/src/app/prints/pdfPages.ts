import { InjectionToken } from '@angular/core';
import type { getDocument, PDFWorker } from 'pdfjs-dist';

/** An opened PDF. */
export interface PdfPages {
  readonly count: number;
  /** Draws a page, counted from one, so wide in CSS pixels. */
  draw(page: number, canvas: HTMLCanvasElement, width: number): Promise<void>;
  close(): Promise<void>;
}

/** Opens a PDF for the preview: the same file that will be printed. Whoever asks for this early has what draws it loaded by the time there is something to draw. */
export const OPEN_PDF = new InjectionToken<(pdf: ArrayBuffer) => Promise<PdfPages>>('open a PDF', {
  providedIn: 'root',
  factory: () => {
    let loading: Promise<Drawing> | null = null;
    // The network may be back the next time.
    const loaded = (): Promise<Drawing> => (loading ??= load(() => (loading = null)));
    // That it failed is said where something is to be drawn.
    loaded().catch(() => undefined);
    return async (pdf) => openPdf(await loaded(), pdf);
  },
});

/** The package and its worker, which draws everything that is opened. */
interface Drawing {
  readonly getDocument: typeof getDocument;
  readonly worker: PDFWorker;
}

/** @param lost called when either does not come, or ends */
async function load(lost: () => void): Promise<Drawing> {
  try {
    const pdf = await import('pdfjs-dist');
    const port = new Worker(new URL('./pdf.worker', import.meta.url), { type: 'module' });
    port.addEventListener('error', lost);
    return { getDocument: pdf.getDocument, worker: pdf.PDFWorker.create({ port }) };
  } catch (error) {
    lost();
    throw error;
  }
}

async function openPdf({ getDocument: open, worker }: Drawing, pdf: ArrayBuffer): Promise<PdfPages> {
  // The package keeps the bytes it is given.
  const task = open({ data: pdf.slice(0), worker, useWasm: false, useSystemFonts: false });
  const file = await task.promise;
  return {
    count: file.numPages,
    draw: async (number, canvas, width) => {
      const page = await file.getPage(number);
      const scale = (width / page.getViewport({ scale: 1 }).width) * devicePixelRatio;
      const viewport = page.getViewport({ scale });
      canvas.width = viewport.width;
      canvas.height = viewport.height;
      await page.render({ canvas, viewport }).promise;
    },
    close: () => task.destroy(),
  };
}
