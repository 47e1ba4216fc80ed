/** Settings of one end of a serial line. Rate in bit/s. */
export interface SerialSettings {
  readonly rate: number;
  readonly dataBits: 7 | 8;
  readonly parity: 'N' | 'E' | 'O';
  readonly stopBits: 1 | 2;
}

/** `19200 8E1` */
export const settingsText = ({ rate, dataBits, parity, stopBits }: SerialSettings): string =>
  `${rate} ${dataBits}${parity}${stopBits}`;

/** Reads what `settingsText` writes; null where the text is something else. */
export function parseSettings(text: string): SerialSettings | null {
  const found = /^(\d+) ([78])([NEO])([12])$/.exec(text.trim());
  return found
    ? {
        rate: parseInt(found[1] ?? '', 10),
        dataBits: found[2] === '7' ? 7 : 8,
        parity: found[3] as SerialSettings['parity'],
        stopBits: found[4] === '2' ? 2 : 1,
      }
    : null;
}

/** Bits of one character on the wire: start, data, parity if any, stop. */
export const bitsPerCharacter = ({ dataBits, parity, stopBits }: SerialSettings): number =>
  1 + dataBits + (parity === 'N' ? 0 : 1) + stopBits;

/** Time of one character on the line, in microseconds, with start, parity and stop bits. */
export const characterUs = (settings: SerialSettings): number => (bitsPerCharacter(settings) * 1e6) / settings.rate;

/** Above this rate the standard fixes both silences (Modbus over Serial Line V1.02, 2.5.1.1). */
const FIXED_ABOVE = 19200;

/** Silence that ends an RTU frame, in microseconds: 3.5 characters, 1750 above 19200 bit/s. */
export const frameGapUs = (settings: SerialSettings): number =>
  settings.rate > FIXED_ABOVE ? 1750 : 3.5 * characterUs(settings);

/** Longest silence inside an RTU frame, in microseconds: 1.5 characters, 750 above 19200 bit/s. */
export const innerGapUs = (settings: SerialSettings): number =>
  settings.rate > FIXED_ABOVE ? 750 : 1.5 * characterUs(settings);
