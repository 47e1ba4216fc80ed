import { GET } from '../src/app/pdf/[folder]/[file]/route';

const ask = (folder: string, file: string): Promise<Response> =>
  GET(new Request('http://127.0.0.1/pdf'), { params: Promise.resolve({ folder, file }) });

it('gives the tables, fonts and decoders that the PDF package asks for', async () => {
  const font = await ask('standard_fonts', 'LiberationSans-Regular.ttf');
  expect(font.status).toBe(200);
  // The first four bytes of a TrueType font (Apple TrueType reference manual, from memory).
  expect(new Uint8Array(await font.arrayBuffer()).slice(0, 4)).toEqual(Uint8Array.of(0, 1, 0, 0));
  const decoder = await ask('wasm', 'openjpeg.wasm');
  expect(decoder.headers.get('content-type')).toBe('application/wasm');
});

it.each([
  ['build', 'pdf.mjs'],
  ['standard_fonts', '../package.json'],
  ['standard_fonts', '..%2fpackage.json'],
  ['..', 'package.json'],
  ['cmaps', 'absent.bcmap'],
  ['wasm', 'LICENSE_OPENJPEG'],
  ['cmaps', `${'a'.repeat(80)}.bcmap`],
])('gives nothing else: %s/%s', async (folder, file) => {
  expect((await ask(folder, file)).status).toBe(404);
});
