import { InjectionToken } from '@angular/core';

/** An opened PDF. */
export interface PdfPages {
  readonly count: number;
  /** Draws a page, counted from one, so wide in CSS pixels. */
  draw(page: number, canvas: HTMLCanvasElement, width: number): Promise<void>;
  close(): Promise<void>;
}

/** Opens a PDF for the preview: the same file that will be printed. */
export const OPEN_PDF = new InjectionToken<(pdf: ArrayBuffer) => Promise<PdfPages>>('open a PDF', {
  providedIn: 'root',
  factory: () => openPdf,
});

async function openPdf(pdf: ArrayBuffer): Promise<PdfPages> {
  const { getDocument, PDFWorker } = await import('pdfjs-dist');
  const port = new Worker(new URL('./pdf.worker', import.meta.url), { type: 'module' });
  const worker = PDFWorker.create({ port });
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
    close: async () => {
      await task.destroy();
      port.terminate();
    },
  };
}
