import { readFile } from 'node:fs/promises';
import path from 'node:path';

export const runtime = 'nodejs';

/** What the PDF package asks for while it reads a file: its own tables of characters, stand-in fonts and picture decoders, and nothing else. */
const FOLDERS: ReadonlySet<string> = new Set(['cmaps', 'standard_fonts', 'wasm', 'iccs']);
const FILE = /^[A-Za-z0-9_-]{1,60}\.(?:bcmap|pfb|ttf|wasm|js|icc)$/;
const KINDS: Readonly<Record<string, string>> = { '.wasm': 'application/wasm', '.js': 'text/javascript' };

const absent = (): Response => new Response('there is nothing here', { status: 404 });

export async function GET(
  _: Request,
  { params }: { readonly params: Promise<{ folder: string; file: string }> },
): Promise<Response> {
  const { folder, file } = await params;
  if (!FOLDERS.has(folder) || !FILE.test(file)) return absent();
  const bytes = await readFile(path.join(process.cwd(), 'node_modules', 'pdfjs-dist', folder, file)).catch(() => null);
  if (!bytes) return absent();
  return new Response(new Uint8Array(bytes), {
    headers: {
      'content-type': KINDS[path.extname(file)] ?? 'application/octet-stream',
      'cache-control': 'public, max-age=86400',
    },
  });
}
