import type * as Pdf from 'pdfjs-dist';
import { messageOf } from '../../../core/message-of';
import { done, failed, type Result } from '../../../core/result';
import type { PlacedText } from '../../../core/tables/page-lines';

/** A manual larger than this is refused before it is read. */
const LARGEST_MANUAL = 300 * 1024 * 1024;
/** So many pages' texts are held; the others are read again when they are asked for. */
const HELD_PAGES = 64;

export interface PageSize {
  readonly width: number;
  readonly height: number;
}

/** A PDF that is open in its own worker. Lengths are points at the page's own turn, from its top left corner. */
export interface Manual {
  readonly name: string;
  /** SHA-256 of the file, in hex. */
  readonly digest: string;
  readonly file: Blob;
  readonly pages: number;
  readonly size: (page: number) => Promise<PageSize>;
  readonly text: (page: number) => Promise<readonly PlacedText[]>;
  /** Draws a page so that it is `width` device pixels wide. */
  readonly draw: (page: number, canvas: HTMLCanvasElement, width: number) => Drawing;
  readonly close: () => void;
}

export interface Drawing {
  readonly done: Promise<void>;
  readonly cancel: () => void;
}

/** The package and its worker come when the first manual is opened. */
async function pdfPackage(): Promise<typeof Pdf> {
  const pdf = await import('pdfjs-dist');
  pdf.GlobalWorkerOptions.workerSrc = new URL('pdfjs-dist/build/pdf.worker.min.mjs', import.meta.url).href;
  return pdf;
}

async function digestOf(bytes: ArrayBuffer): Promise<string> {
  const digest = await crypto.subtle.digest('SHA-256', bytes);
  return [...new Uint8Array(digest)].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}

const megabytes = (size: number): string => (size / 1024 / 1024).toFixed(0);

/** Opens a PDF; the file never leaves the computer. Fails with a sentence. */
export async function openManual(file: Blob, name: string): Promise<Result<Manual, string>> {
  if (file.size > LARGEST_MANUAL)
    return failed(`${name} has ${megabytes(file.size)} MB; ${megabytes(LARGEST_MANUAL)} MB at most are opened here`);
  const bytes = await file.arrayBuffer();
  const digest = await digestOf(bytes);
  const pdf = await pdfPackage();
  const base = new URL('/pdf/', location.href).href;
  const task = pdf.getDocument({
    data: new Uint8Array(bytes),
    cMapUrl: `${base}cmaps/`,
    standardFontDataUrl: `${base}standard_fonts/`,
    wasmUrl: `${base}wasm/`,
    iccUrl: `${base}iccs/`,
    enableXfa: false,
    useSystemFonts: false,
    // Nobody sits at a console here: what the page needs to know it is told.
    verbosity: pdf.VerbosityLevel.ERRORS,
  });
  try {
    return done(manualOf(pdf, await task.promise, { file, name, digest }));
  } catch (error) {
    void task.destroy();
    // The package does not give this class's type, only its name.
    if (error instanceof Error && error.name === 'PasswordException')
      return failed(`${name} is locked by a password: open it in a PDF program and save it without`);
    return failed(`${name} is no PDF that can be read: ${messageOf(error)}`);
  }
}

function manualOf(
  { Util }: typeof Pdf,
  document: Pdf.PDFDocumentProxy,
  about: Pick<Manual, 'file' | 'name' | 'digest'>,
): Manual {
  const texts = new Map<number, Promise<readonly PlacedText[]>>();
  const placed = async (page: Pdf.PDFPageProxy): Promise<readonly PlacedText[]> => {
    const { transform } = page.getViewport({ scale: 1 });
    const { items } = await page.getTextContent();
    return items.flatMap((item): PlacedText[] => {
      if (!('str' in item) || item.str.trim() === '') return [];
      const own = Util.transform(transform, item.transform as number[]) as number[];
      const [a = 0, b = 0, c = 0, d = 0, x = 0, base = 0] = own;
      // Text that runs up the page's edge is no row of a table.
      if (Math.abs(b) > Math.abs(a)) return [];
      const height = Math.hypot(c, d) || item.height;
      return [{ text: item.str, x, y: base - height * ASCENT, width: item.width, height }];
    });
  };
  return {
    ...about,
    pages: document.numPages,
    size: async (page) => {
      const { width, height } = (await document.getPage(page)).getViewport({ scale: 1 });
      return { width, height };
    },
    text: (page) => {
      const held = texts.get(page) ?? document.getPage(page).then(placed);
      texts.delete(page);
      texts.set(page, held);
      const [oldest] = texts.keys();
      if (texts.size > HELD_PAGES && oldest !== undefined) texts.delete(oldest);
      return held;
    },
    draw: (page, canvas, width) => {
      let cancel = (): void => undefined;
      let isOver = false;
      const drawn = document.getPage(page).then(async (proxy) => {
        if (isOver) return;
        const viewport = proxy.getViewport({ scale: width / proxy.getViewport({ scale: 1 }).width });
        canvas.width = Math.round(viewport.width);
        canvas.height = Math.round(viewport.height);
        const task = proxy.render({ canvas, viewport });
        cancel = () => task.cancel();
        await task.promise;
      });
      return {
        // A page that is turned while it is drawn ends its drawing: that is no fault.
        done: drawn.catch((error: unknown) => {
          if (!isOver) throw error;
        }),
        cancel: () => {
          isOver = true;
          cancel();
        },
      };
    },
    close: () => void document.loadingTask.destroy(),
  };
}

/** The part of a letter's height that stands above its base line; common practice of fonts, no source. */
const ASCENT = 0.8;
