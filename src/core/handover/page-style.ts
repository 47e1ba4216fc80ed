/** How a record looks, on the screen and on paper: black on white, rows never cut, heads repeated, pages numbered. */
export const PAGE_STYLE = `:root { color-scheme: light; }
* { box-sizing: border-box; }
body { margin: 0 auto; max-width: 1080px; padding: 24px; font: 15px/1.45 "Record", system-ui, sans-serif; color: #111; background: #fff; }
code, .mono { font-family: "Record Mono", ui-monospace, monospace; font-size: 0.92em; overflow-wrap: anywhere; }
h1 { font-size: 26px; margin: 0 0 12px; }
h2 { font-size: 19px; margin: 32px 0 10px; padding-top: 8px; border-top: 2px solid #111; break-after: avoid; }
dl { display: grid; gap: 2px 16px; margin: 0 0 12px; }
dl div { display: grid; grid-template-columns: 170px 1fr; }
dt { color: #444; }
dd { margin: 0; }
nav ol { columns: 2; padding-left: 22px; margin: 8px 0 0; }
a { color: #111; }
.remark { border-left: 3px solid #111; padding-left: 10px; white-space: pre-wrap; }
table { border-collapse: collapse; width: 100%; margin: 0 0 18px; font-size: 13px; }
caption { text-align: left; font-weight: 600; padding: 6px 0; break-after: avoid; }
th, td { text-align: left; vertical-align: top; padding: 3px 8px 3px 0; border-bottom: 1px solid #bbb; overflow-wrap: anywhere; }
thead th { overflow-wrap: normal; }
thead th, thead td { border-bottom: 1px solid #111; font-weight: 600; }
thead { display: table-header-group; }
tr, figure { break-inside: avoid; }
.mark { white-space: nowrap; width: 76px; }
.from { color: #444; width: 108px; }
.parts { width: auto; font-size: 12px; }
.parts th { font-weight: 400; color: #444; }
figure { margin: 0 0 18px; }
figcaption { font-weight: 600; padding: 6px 0; }
svg { width: 100%; max-width: 640px; font: 11px "Record", sans-serif; }
img { max-width: 100%; max-height: 170mm; width: auto; height: auto; }
.put { font-weight: 400; color: #444; }
svg .band { fill: #ddd; stroke: #888; stroke-dasharray: 4 3; }
svg .line { fill: none; stroke: #111; stroke-width: 1.6; }
svg .axis { fill: none; stroke: #111; }
@page { margin: 16mm 14mm 18mm; font: 8pt "Record", sans-serif; @bottom-right { content: counter(page) " / " counter(pages); } }
@media print {
  body { max-width: none; padding: 0; font-size: 10pt; }
  table { font-size: 8pt; }
  a { text-decoration: none; }
  nav { display: none; }
}`;
