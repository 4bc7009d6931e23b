import { InjectionToken } from '@angular/core';

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
    let loading: ReturnType<typeof load> | null = null;
    const loaded = (): ReturnType<typeof load> =>
      (loading ??= load().catch((error: unknown) => {
        // The network may be back the next time.
        loading = null;
        throw error;
      }));
    // Whether it failed is said where something is to be drawn.
    loaded().catch(() => undefined);
    return async (pdf) => openPdf(await loaded(), pdf);
  },
});

/** The package and its worker, which draws everything that is opened. */
async function load() {
  const { getDocument, PDFWorker } = await import('pdfjs-dist');
  const port = new Worker(new URL('./pdf.worker', import.meta.url), { type: 'module' });
  return { getDocument, worker: PDFWorker.create({ port }) };
}

async function openPdf({ getDocument, worker }: Awaited<ReturnType<typeof load>>, pdf: ArrayBuffer): Promise<PdfPages> {
  // The package keeps the bytes it is given.
  const task = getDocument({ data: pdf.slice(0), worker, useWasm: false, useSystemFonts: false });
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
