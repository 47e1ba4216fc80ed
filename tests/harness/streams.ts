import { concatBytes } from '../../src/core/bytes/concat';
import { encodeRtu } from '../../src/core/modbus/encode';
import type { ModbusMessage } from '../../src/core/modbus/message';
import type { Direction } from '../../src/core/direction';
import { pick, type Random } from '../../src/core/random/random';

const built = (message: ModbusMessage, direction: Direction): Uint8Array => {
  const bytes = encodeRtu(message, direction);
  if (!bytes.ok) throw new Error(bytes.error[0]?.text);
  return bytes.value;
};

const words = (random: Random, count: number): number[] => Array.from({ length: count }, () => pick(random, 65536));

/** One exchange of a polled line: mostly reads of a few registers, some writes, now and then a refusal or another function. */
export function exchangeOf(random: Random): readonly [Uint8Array, Uint8Array] {
  const unit = 1 + pick(random, 30);
  const address = pick(random, 60_000);
  const kind = pick(random, 20);
  if (kind === 0)
    return [built({ unit, fc: 3, address, quantity: 4 }, 'request'), built({ unit, fc: 3, exception: 2 }, 'response')];
  if (kind < 4) {
    const write: ModbusMessage = { unit, fc: 6, address, values: words(random, 1) };
    return [built(write, 'request'), built(write, 'response')];
  }
  if (kind < 6) {
    const values = words(random, 1 + pick(random, 20));
    const quantity = values.length;
    return [
      built({ unit, fc: 16, address, quantity, values }, 'request'),
      built({ unit, fc: 16, address, quantity }, 'response'),
    ];
  }
  if (kind === 6) {
    const coils = Array.from({ length: 24 }, () => pick(random, 2));
    return [built({ unit, fc: 1, address, quantity: 24 }, 'request'), built({ unit, fc: 1, coils }, 'response')];
  }
  if (kind === 7) {
    const values = words(random, 3);
    const write: ModbusMessage = { unit, fc: 23, readAddress: address, readQuantity: 5, writeAddress: address, values };
    return [built(write, 'request'), built({ unit, fc: 23, values: words(random, 5) }, 'response')];
  }
  const quantity = 1 + pick(random, 12);
  return [
    built({ unit, fc: 3, address, quantity }, 'request'),
    built({ unit, fc: 3, values: words(random, quantity) }, 'response'),
  ];
}

/** A frame in a stream, and whether its bytes are whole there. */
export interface Planted {
  readonly offset: number;
  readonly length: number;
  readonly intact: boolean;
}

/** A stream of exchanges in which a share of the frames is damaged by inserted, lost or flipped bytes, or followed by noise. */
export function damagedStream(
  random: Random,
  exchanges: number,
  share: number,
): { readonly bytes: Uint8Array; readonly planted: readonly Planted[] } {
  const parts: Uint8Array[] = [];
  const planted: Planted[] = [];
  let offset = 0;
  const put = (bytes: Uint8Array, intact: boolean): void => {
    planted.push({ offset, length: bytes.length, intact });
    parts.push(bytes);
    offset += bytes.length;
  };
  for (let i = 0; i < exchanges; i++)
    for (const frame of exchangeOf(random)) {
      if (random() >= share) {
        put(frame, true);
        continue;
      }
      // At either end, or beside its like, an inserted or lost byte could leave a whole frame standing there.
      const at = 1 + pick(random, frame.length - 2);
      const unlike = [...Array(256).keys()].filter((byte) => byte !== frame[at - 1] && byte !== frame[at]);
      switch (pick(random, 4)) {
        case 0:
          put(
            Uint8Array.from([...frame.slice(0, at), unlike[pick(random, unlike.length)] ?? 0, ...frame.slice(at)]),
            false,
          );
          break;
        case 1:
          put(Uint8Array.from([...frame.slice(0, at), ...frame.slice(at + 1)]), false);
          break;
        case 2: {
          const flipped = frame.slice();
          flipped[at] = (flipped[at] ?? 0) ^ (1 << pick(random, 8));
          put(flipped, false);
          break;
        }
        default: {
          put(frame, true);
          const noise = Uint8Array.from({ length: 1 + pick(random, 40) }, () => pick(random, 256));
          parts.push(noise);
          offset += noise.length;
        }
      }
    }
  return { bytes: concatBytes(...parts), planted };
}
