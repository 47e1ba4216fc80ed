import type { Browser } from '@playwright/test';

/** Rows of an invented drive's manual: a long list that breaks over pages, with names that wrap and a column of choices. */
const ROWS: readonly (readonly string[])[] = Array.from({ length: 70 }, (_, i) => {
  const address = 300 + 2 * i;
  if (i % 7 === 3)
    return [`${address}`, `Source of command ${i}`, 'UINT16', '0: keypad\n1: terminals\n2: network', '', '2', 'R/W'];
  if (i % 7 === 5)
    return [
      `${address}`,
      `Seconds that the pump may stand before it is turned, channel ${i}`,
      'UINT32',
      '0 to 86400',
      's',
      '600',
      'R/W',
    ];
  return [`${address}`, `Level limit ${i}`, 'INT16', '−50.0 to 150.0', '%', '12.5', i % 2 === 0 ? 'R/W' : 'R'];
});
const HEADINGS = ['Register', 'Name', 'Type', 'Range', 'Unit', 'Default', 'Access'];

const STYLE = `
  body { font: 9pt serif; margin: 0 }
  table { border-collapse: collapse; width: 100% }
  td, th { text-align: left; vertical-align: middle; padding: 2.5pt 7pt; border-bottom: 0.4pt solid #999; white-space: pre-line }
  td:nth-child(2) { width: 105pt }
  tr { break-inside: avoid }
`;
const cells = (row: readonly string[], tag: string): string =>
  `<tr>${row.map((cell) => `<${tag}>${cell}</${tag}>`).join('')}</tr>`;
const page = (body: string): string => `<!doctype html><meta charset="utf-8"><style>${STYLE}</style>${body}`;

const DOCUMENT = page(`
  <h1>Sump pump drive</h1><p>What stands in this booklet is invented.</p>
  <h2 style="break-before: page">Parameters over the link</h2>
  <p>Addresses count from 0; holding registers, functions 03, 06 and 16.</p>
  <table><thead>${cells(HEADINGS, 'th')}</thead><tbody>${ROWS.map((row) => cells(row, 'td')).join('')}</tbody></table>
`);

/** The booklet as a PDF, with page numbers at the foot. */
export async function printManual(browser: Browser): Promise<Buffer> {
  const printer = await browser.newPage();
  await printer.setContent(DOCUMENT);
  const file = await printer.pdf({
    format: 'A4',
    margin: { top: '20mm', bottom: '20mm', left: '18mm', right: '18mm' },
    displayHeaderFooter: true,
    headerTemplate: '<span></span>',
    footerTemplate: '<div style="font-size:8px;width:100%;text-align:center"><span class="pageNumber"></span></div>',
  });
  await printer.close();
  return file;
}

/** A page that is a picture of print only, as scanners make them. */
export async function scanManual(browser: Browser): Promise<Buffer> {
  const printer = await browser.newPage();
  await printer.setContent(DOCUMENT);
  const picture = (await printer.screenshot()).toString('base64');
  await printer.setContent(`<img style="width:100%" src="data:image/png;base64,${picture}">`);
  const file = await printer.pdf({ format: 'A4' });
  await printer.close();
  return file;
}

/** How many entries the booklet's table has. */
export const MANUAL_ENTRIES = ROWS.length;
