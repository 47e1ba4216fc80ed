import { bytesToHex } from '../../bytes/hex';
import { leavesOf } from '../../bytes/field';
import { meaningOf } from '../../drive/describe';
import type { Block } from '../document';
import { driveKey, driveName, fromExchange, timeText, type HandoverInput } from '../drive';
import { table } from './lines';

/** Faults that the drives met, how long, and what was written before they were gone. */
export const faultBlocks = ({ drives, zoneMinutes }: HandoverInput): readonly Block[] =>
  drives.flatMap((drive) => {
    const { index, facts, protocol } = drive;
    if (!index) return [];
    const place = index.byRole.get('fault-code');
    return table(
      `${driveName(drive)}: faults met`,
      ['fault', 'seen', 'gone', 'its cause by the sheet', 'what cured it'],
      facts.faults.map(({ code, from, to, cure }, i) => ({
        key: `fault ${driveKey(drive)} ${i}`,
        cells: [
          code === null || !place ? 'a fault, whose number was not read' : meaningOf(index, place, code),
          timeText(from.atMs, zoneMinutes),
          to ? timeText(to.atMs, zoneMinutes) : 'still there when it was read last',
          index.sheet.faults?.find((fault) => fault.code === code)?.cause ?? '',
          to ? (cure ? (protocol?.sentence(cure, 'request', null, index) ?? '') : 'nothing that the bench wrote') : '',
        ],
        mark: to ? 'good' : 'bad',
        from: fromExchange(to ?? from),
      })),
    );
  });

/** The exchanges that say most of a drive, as bytes with what each is. */
export const exchangeBlocks = ({ drives, zoneMinutes }: HandoverInput): readonly Block[] =>
  drives.flatMap((drive) => {
    const { index, facts, protocol } = drive;
    if (!protocol) return [];
    return facts.keys.map(({ why, request, reply, seen }): Block => {
      const frame = (bytes: Uint8Array, way: 'sent' | 'received') => {
        const direction = way === 'sent' ? ('request' as const) : ('response' as const);
        return {
          way,
          hex: bytesToHex(bytes, ' ').toUpperCase(),
          said: protocol.sentence(bytes, direction, way === 'sent' ? null : request, index),
          parts: leavesOf(protocol.anatomy(bytes, direction, way === 'sent' ? null : request))
            .slice(0, MOST_PARTS)
            .map(({ start, end, label, text }) => ({
              hex: bytesToHex(bytes.subarray(start, end), ' ').toUpperCase(),
              label,
              text,
            })),
        };
      };
      return {
        kind: 'exchange',
        title: `${driveName(drive)}: ${why}, ${timeText(seen.atMs, zoneMinutes)}`,
        frames: [frame(request, 'sent'), frame(reply, 'received')],
        from: fromExchange(seen),
      };
    });
  });

const MOST_PARTS = 200;
