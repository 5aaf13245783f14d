import { NoPicture, asPictureFile } from './shrink-picture';

/** A PDF that is open: how many pages it has, and each of them drawn. */
export interface PdfPages {
  readonly count: number;
  /** A page, from 1, with its longer side of so many points. */
  draw(page: number, longestPx: number): Promise<HTMLCanvasElement>;
  close(): void;
}

/** Whether a file is a PDF by its content: its mark stands among its first bytes. */
export async function isPdf(file: Blob): Promise<boolean> {
  const first = new Uint8Array(await file.slice(0, 1024).arrayBuffer());
  return new TextDecoder('latin1').decode(first).includes('%PDF-');
}

/** Where the parts of the reader lie that it fetches when a file needs them. */
const PARTS = '/pdf/';

const LOCKED = (): NoPicture =>
  new NoPicture(
    'pdf.locked',
    $localize`This PDF is locked with a password\: open it where you know it, and save the page as a picture.`,
  );
const BROKEN = (): NoPicture =>
  new NoPicture('pdf.broken', $localize`This PDF is broken or cut off\: nothing of it was read.`);
const NO_PAGE = (): NoPicture =>
  new NoPicture(
    'pdf.page',
    $localize`This page of the PDF cannot be drawn\: save it as a picture, and take that.`,
  );

const NO_READER = (): NoPicture =>
  new NoPicture(
    'pdf.no-reader',
    $localize`What reads PDFs is not on this device yet and cannot be fetched now\: take the page as a picture, or try again with a network.`,
  );

/** Opens a PDF. Throws `NoPicture`: picture.too-large, pdf.locked, pdf.broken, pdf.no-reader; drawing throws pdf.page. */
export async function openPdf(file: Blob): Promise<PdfPages> {
  asPictureFile(file);
  const reader = await import('pdfjs-dist/legacy/build/pdf.mjs').catch(() => {
    throw NO_READER();
  });
  reader.GlobalWorkerOptions.workerSrc = `${PARTS}pdf.worker.min.mjs`;
  const task = reader.getDocument({
    data: new Uint8Array(await file.arrayBuffer()),
    wasmUrl: `${PARTS}wasm/`,
    standardFontDataUrl: `${PARTS}standard_fonts/`,
    cMapUrl: `${PARTS}cmaps/`,
    cMapPacked: true,
    isEvalSupported: false,
    verbosity: 0,
  });
  try {
    const pdf = await task.promise;
    return {
      count: pdf.numPages,
      async draw(number, longestPx) {
        try {
          const page = await pdf.getPage(number);
          const { width, height } = page.getViewport({ scale: 1 });
          const viewport = page.getViewport({ scale: longestPx / Math.max(width, height) });
          const canvas = document.createElement('canvas');
          canvas.width = Math.round(viewport.width);
          canvas.height = Math.round(viewport.height);
          await page.render({ canvas, viewport, background: '#fff' }).promise;
          page.cleanup();
          return canvas;
        } catch {
          throw NO_PAGE();
        }
      },
      close: () => void task.destroy(),
    };
  } catch (error) {
    void task.destroy();
    const { name } = error as Error;
    throw name === 'PasswordException' ? LOCKED() : /PDF/.test(name) ? BROKEN() : NO_READER();
  }
}
