import { readdirSync, readFileSync } from 'node:fs';
import before from './fixtures/requests-by-format-1.json';
import { identityReads, watchItems, watchReads } from '../src/bench/procedures/watch-reads';
import { bytesToHex } from '../src/core/bytes/hex';
import { RTU } from '../src/core/modbus/framing';
import { commandLink } from '../src/core/places/command-link';
import type { PlaceLink } from '../src/core/places/place-link';
import { registerLink } from '../src/core/places/register-link';
import { ussLink } from '../src/core/places/uss-link';
import { indexSheet } from '../src/core/sheet/index-sheet';
import { loadSheet } from '../src/core/sheet/load-sheet';
import { ModbusControl } from '../src/link/modbus-control';
import { UssControl } from '../src/link/uss-control';

/** What the sheets said in format 1 before they were brought to format 2, as requests of every parameter, watch and stop. */
it('the shipped sheets give byte for byte the requests that they gave in format 1', () => {
  const out: Record<string, Record<string, unknown>> = {};
  for (const file of readdirSync('sheets').filter((f) => f.endsWith('.json'))) {
    const sheet = loadSheet(JSON.parse(readFileSync('sheets/' + file, 'utf8')));
    if (!sheet.ok) throw new Error(JSON.stringify(sheet.error));
    // What came to a sheet since is left out: a block may be read over it.
    const listed = new Set(
      Object.entries(before as Record<string, object>).flatMap(([name, requests]) =>
        name.startsWith(file) ? Object.keys(requests) : [],
      ),
    );
    const isListed = ({ number }: { readonly number: string }): boolean => listed.has(number);
    const base = indexSheet({ ...sheet.value, parameters: sheet.value.parameters?.filter(isListed) });
    for (const [mode, index] of [['', base] as const, ...[...base.modes].map(([m, i]) => [`#${m}`, i] as const)]) {
      const protocol = sheet.value.link?.protocol;
      const links: [string, PlaceLink][] = [];
      if (protocol?.startsWith('modbus')) links.push(['m', registerLink(index, RTU)]);
      if (sheet.value.uss) links.push(['u', ussLink(index)]);
      if (sheet.value.dialect) links.push(['d', commandLink(sheet.value.dialect)]);
      const hex = (b: Uint8Array | null) => b && bytesToHex(b);
      for (const [name, link] of links) {
        const mine: Record<string, unknown> = {};
        for (const p of index.parameters) {
          mine[p.number] = [
            ...[0, 1, 0x1234, 0xfff0].map((w) => hex(link.write(3, p, w, () => undefined))),
            ...link.read(3, [p]).map(hex),
          ];
        }
        mine.all = link.read(3, index.parameters.filter(isListed)).map(hex);
        mine.watch = watchReads(3, index, link).map(hex);
        mine.items = watchItems(3, index, link).map((i) => [hex(i.bytes), i.everyUs]);
        mine.identity = identityReads(3, index, link).map(hex);
        const control =
          name === 'm' ? new ModbusControl(3, index, RTU) : name === 'u' ? new UssControl(3, index) : null;
        if (control)
          mine.control = [
            hex(control.controlWrite(0x47f)),
            control.stopFrames().map(hex),
            hex(control.statusRead()),
            hex(control.holdRead()),
            hex(control.statusWordRead()),
            control.keepAliveEveryUs(),
          ];
        out[`${file}${mode} ${name}`] = mine;
      }
    }
  }
  // Two halves are one value now.
  const HALVES = new Set(['42', '43', '53', '54']);
  for (const [name, requests] of Object.entries(before as Record<string, Record<string, unknown>>))
    for (const [what, frames] of Object.entries(requests))
      if (!(name.startsWith('curlew') && HALVES.has(what)))
        expect([name, what, out[name]?.[what]]).toEqual([
          name,
          what,
          what === 'watch' || what === 'items' ? (expect.arrayContaining(frames as unknown[]) as unknown) : frames,
        ]);
});
