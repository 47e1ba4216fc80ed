/** Ids of records: UUID version 7 (RFC 9562, 5.7), so that they sort by the time they were made. */
export type RecordId<Kind extends string> = string & { readonly __kind: Kind };

/**
 * A UUIDv7 from wall-clock milliseconds and ten random bytes; time and randomness are passed in.
 * Bytes beyond the tenth are ignored, missing ones count as 0.
 */
export function uuidV7<Kind extends string>(wallMs: number, random: Uint8Array): RecordId<Kind> {
  const bytes = new Uint8Array(16);
  for (let i = 0; i < 6; i++) bytes[i] = Math.floor(wallMs / 2 ** (8 * (5 - i))) % 256;
  bytes.set(random.subarray(0, 10), 6);
  bytes[6] = ((bytes[6] ?? 0) & 0b0000_1111) | 0b0111_0000;
  bytes[8] = ((bytes[8] ?? 0) & 0b0011_1111) | 0b1000_0000;
  const hex = Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}` as RecordId<Kind>;
}
