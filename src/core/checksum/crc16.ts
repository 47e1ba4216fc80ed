/**
 * CRC-16/MODBUS, polynomial 0xA001 reflected (Modbus over Serial Line V1.02, 6.2.2), eight bytes a step. Table k gives what a byte becomes that k more
 * bytes follow: the step is the sum of eight look-ups of which only two wait for the step before (slicing by 8, common practice, no source). The
 * plain twin, a bit at a time, is `checksum.ts`; the tests hold both side by side.
 */
type Tables = readonly [
  Uint16Array,
  Uint16Array,
  Uint16Array,
  Uint16Array,
  Uint16Array,
  Uint16Array,
  Uint16Array,
  Uint16Array,
];

const TABLES = ((): Tables => {
  const tables = [
    Uint16Array.from({ length: 256 }, (_, byte) => {
      let register = byte;
      for (let bit = 0; bit < 8; bit++) register = register & 1 ? (register >>> 1) ^ 0xa001 : register >>> 1;
      return register;
    }),
  ];
  const [first] = tables as [Uint16Array];
  for (let k = 1; k < 8; k++)
    tables.push((tables[k - 1] as Uint16Array).map((before) => (before >>> 8) ^ (first[before & 0xff] as number)));
  return tables as unknown as Tables;
})();

/** From so many bytes on, words of 32 bits are taken at once; making the view of them costs more below. */
const LONG = 64;
/** Words of 32 bits lie in memory low byte first; elsewhere all bytes are taken by themselves. */
export const IS_LOW_FIRST = new Uint8Array(Uint32Array.of(1).buffer)[0] === 1;

type Crc = (bytes: Uint8Array, start?: number, end?: number) => number;

/** The loops see the tables as constants of their own, whose length the engine knows: a look-up masked to 8 bits needs no check of its bounds. */
function crcBy([T0, T1, T2, T3, T4, T5, T6, T7]: Tables): Crc {
  const shortCrc = (bytes: Uint8Array, start: number, end: number, before: number): number => {
    let register = before;
    let at = start;
    for (const last = end - 7; at < last; at += 8)
      register =
        (T7[(register ^ (bytes[at] as number)) & 0xff] as number) ^
        (T6[((register >>> 8) ^ (bytes[at + 1] as number)) & 0xff] as number) ^
        (T5[bytes[at + 2] as number] as number) ^
        (T4[bytes[at + 3] as number] as number) ^
        (T3[bytes[at + 4] as number] as number) ^
        (T2[bytes[at + 5] as number] as number) ^
        (T1[bytes[at + 6] as number] as number) ^
        (T0[bytes[at + 7] as number] as number);
    for (; at < end; at++) register = (register >>> 8) ^ (T0[(register ^ (bytes[at] as number)) & 0xff] as number);
    return register;
  };
  const longCrc = (bytes: Uint8Array, start: number, end: number): number => {
    const aligned = start + (-(bytes.byteOffset + start) & 3);
    let register = shortCrc(bytes, start, aligned, 0xffff);
    const count = ((end - aligned) >>> 3) * 2;
    const words = new Uint32Array(bytes.buffer, bytes.byteOffset + aligned, count);
    for (let i = 0; i < count; i += 2) {
      const first = (words[i] as number) ^ register;
      const second = words[i + 1] as number;
      register =
        (T7[first & 0xff] as number) ^
        (T6[(first >>> 8) & 0xff] as number) ^
        (T5[(first >>> 16) & 0xff] as number) ^
        (T4[first >>> 24] as number) ^
        (T3[second & 0xff] as number) ^
        (T2[(second >>> 8) & 0xff] as number) ^
        (T1[(second >>> 16) & 0xff] as number) ^
        (T0[second >>> 24] as number);
    }
    return shortCrc(bytes, aligned + 4 * count, end, register);
  };
  return (bytes, start = 0, end = bytes.length) =>
    end - start < LONG || !IS_LOW_FIRST ? shortCrc(bytes, start, end, 0xffff) : longCrc(bytes, start, end);
}

/**
 * CRC of `bytes[start, end)`; a frame with its own check appended, low byte first, gives 0.
 * @example crc16(frame, 0, frame.length) === 0 // the check is good
 */
export const crc16 = crcBy(TABLES);
