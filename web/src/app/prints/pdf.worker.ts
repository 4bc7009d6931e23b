/** pdf.js's own worker, built with the application. */
import 'pdfjs-dist/build/pdf.worker.mjs';
