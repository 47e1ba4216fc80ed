import type { Block, Row, Section, VisitRecord } from './document';
import { MARK_TEXT } from './document';
import { drawCurve, PICTURE } from './curve';
import { timeText } from './drive';
import { PAGE_STYLE } from './page-style';
import { sourceText } from './source-text';

export type Paper = 'A4' | 'letter';

/** The fonts of the page, each as a data address, so that it needs nothing from anywhere; empty where they could not be had. */
export interface PageFonts {
  readonly text: string;
  readonly mono: string;
}

const ESCAPES: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
};
const esc = (text: string): string => text.replace(/[&<>"']/g, (one) => ESCAPES[one] ?? one);

/** The element in which a page carries the record itself, so that the bench opens it again. */
export const RECORD_ELEMENT = 'bujo-record';

/**
 * A record as one page of HTML that needs no program, no script and no network: styles and fonts are in it, and the record as JSON too.
 * `digest`: SHA-256 of that JSON, hex.
 */
export function pageOf(record: VisitRecord, digest: string, paper: Paper, fonts: PageFonts): string {
  const { plant, visit, by, made, since, zoneMinutes, sections, job } = record;
  const title = [plant, visit].filter((part) => part !== '').join(', ');
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src 'unsafe-inline'; font-src data:; img-src data:">
<title>${esc(`Record: ${title}`)}</title>
<style>
${fontFaces(fonts)}${PAGE_STYLE}
@page { size: ${paper}; @bottom-left { content: "${cssText(title)}"; } }
</style>
</head>
<body>
<header>
<h1>${esc(title)}</h1>
<dl>
<div><dt>Job</dt><dd>${esc(job.name)}</dd></div>
<div><dt>By</dt><dd>${by === '' ? 'nobody put a name here' : esc(by)}</dd></div>
<div><dt>Made</dt><dd>${timeText(Date.parse(made), zoneMinutes)}, all times ${zoneText(zoneMinutes)}</dd></div>
${since === undefined ? '' : `<div><dt>Of the time since</dt><dd>${timeText(Date.parse(since), zoneMinutes)}</dd></div>\n`}<div><dt>SHA-256 of the record</dt><dd class="mono">${esc(digest)}</dd></div>
</dl>
<p>What stands here was seen, sent, answered or typed. ${Object.values(MARK_TEXT).join(' · ')}: seen and as it should be; seen, and not; not known or not done; somebody says so.</p>
<nav aria-label="Sections"><ol>
${sections.map(({ id, title: name }) => `<li><a href="#${id}">${esc(name)}</a></li>`).join('\n')}
</ol></nav>
</header>
<main>
${sections.map(sectionHtml).join('\n')}
</main>
<script type="application/json" id="${RECORD_ELEMENT}">${recordText(record).replaceAll('<', '\\u003c')}</script>
</body>
</html>
`;
}

/** The record as its digest is made of it. */
export const recordText = (record: VisitRecord): string => JSON.stringify(record);

/** `UTC+1`; the offset counts to UTC, so that its sign is the other one. */
const zoneText = (minutes: number): string => {
  if (minutes === 0) return 'UTC';
  const [hours, rest] = [Math.floor(Math.abs(minutes) / 60), Math.abs(minutes) % 60];
  return `UTC${minutes < 0 ? '+' : '−'}${hours}${rest === 0 ? '' : `:${String(rest).padStart(2, '0')}`}`;
};

/** A text inside of quotes of a style sheet, inside of a page: no quote, no break and no tag ends it. */
const cssText = (text: string): string => text.replace(/[\\"<>\n\r\f]/g, ' ');

const fontFaces = ({ text, mono }: PageFonts): string =>
  [
    ['Record', text],
    ['Record Mono', mono],
  ]
    .filter(([, address]) => address !== '')
    .map(
      ([family = '', address = '']) =>
        `@font-face { font-family: "${family}"; src: url(${address}) format("woff2"); font-weight: 200 800; }\n`,
    )
    .join('');

const sectionHtml = ({ id, title, remark, blocks }: Section): string =>
  `<section id="${id}" aria-labelledby="${id}-title">
<h2 id="${id}-title">${esc(title)}</h2>
${remark === '' ? '' : `<p class="remark">${esc(remark)}</p>\n`}${blocks.map(blockHtml).join('\n')}
</section>`;

function blockHtml(block: Block): string {
  switch (block.kind) {
    case 'text':
      return `<p>${esc(block.text)}</p>`;
    case 'table':
      return tableHtml(block.title, block.head, block.rows);
    case 'exchange':
      return `<figure>
<figcaption>${esc(block.title)}</figcaption>
${block.frames
  .map(
    ({ way, hex, said, parts }) =>
      `<p><b>${way}</b> <code>${esc(hex)}</code> ${esc(said)}</p>
<table class="parts"><tbody>${parts
        .map(
          ({ hex: bytes, label, text }) =>
            `<tr><td><code>${esc(bytes)}</code></td><th scope="row">${esc(label)}</th><td>${esc(text)}</td></tr>`,
        )
        .join('')}</tbody></table>`,
  )
  .join('\n')}
</figure>`;
    case 'curve':
      return curveHtml(block);
    case 'picture':
      return `<figure>
<figcaption>${esc(block.title)}<br><span class="put">put here ${esc(block.put)}</span></figcaption>
<img src="data:image/jpeg;base64,${block.jpeg}" width="${block.width}" height="${block.height}" alt="${esc(`photograph: ${block.title}`)}">
</figure>`;
  }
}

function tableHtml(title: string, head: readonly string[], rows: readonly Row[]): string {
  const isMarked = rows.some(({ mark }) => mark !== undefined);
  return `<table>
<caption>${esc(title)}</caption>
<thead><tr>${isMarked ? '<th scope="col">mark</th>' : ''}${head.map((name) => (name === '' ? '<td></td>' : `<th scope="col">${esc(name)}</th>`)).join('')}<th scope="col">from</th></tr></thead>
<tbody>
${rows
  .map(
    ({ cells, mark, from }) =>
      `<tr>${isMarked ? `<td class="mark">${mark ? MARK_TEXT[mark] : ''}</td>` : ''}${cells.map((cell) => `<td>${esc(cell)}</td>`).join('')}<td class="from">${esc(sourceText(from))}</td></tr>`,
  )
  .join('\n')}
</tbody>
</table>`;
}

function curveHtml(block: Extract<Block, { kind: 'curve' }>): string {
  const { width, height, left, bottom, top } = PICTURE;
  const { band, line, least, most, longest } = drawCurve(block);
  const title = esc(block.title);
  return `<figure>
<figcaption>${title}: what was expected (the band) and what came (the line)</figcaption>
<svg viewBox="0 0 ${width} ${height}" role="img" aria-label="${title}: expected and seen over time">
<polygon class="band" points="${band}"/>
<polyline class="line" points="${line}"/>
<path class="axis" d="M${left},${top} V${height - bottom} H${width}"/>
<text x="${left - 4}" y="${top + 8}" text-anchor="end">${most}</text>
<text x="${left - 4}" y="${height - bottom}" text-anchor="end">${least}</text>
<text x="2" y="${(height - bottom) / 2}">${esc(block.unit)}</text>
<text x="${width}" y="${height - 6}" text-anchor="end">${longest} s</text>
</svg>
</figure>`;
}
