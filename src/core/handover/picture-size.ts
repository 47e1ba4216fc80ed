interface Size {
  readonly width: number;
  readonly height: number;
}

const starts = (bytes: Uint8Array, at: number, ...signature: readonly number[]): boolean =>
  signature.every((byte, i) => bytes[at + i] === byte);
const textAt = (bytes: Uint8Array, at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4));
const high = (bytes: Uint8Array, at: number, count: number): number =>
  bytes.subarray(at, at + count).reduce((sum, byte) => sum * 256 + byte, 0);
const low = (bytes: Uint8Array, at: number, count: number): number =>
  bytes.subarray(at, at + count).reduceRight((sum, byte) => sum * 256 + byte, 0);

/** PNG (ISO/IEC 15948, 11.2.2): the header is the first chunk behind the signature. */
const ofPng = (bytes: Uint8Array): Size | null =>
  textAt(bytes, 12) === 'IHDR' ? { width: high(bytes, 16, 4), height: high(bytes, 20, 4) } : null;

/** Markers of JPEG (ITU-T T.81, table B.1) that begin a frame: SOF0 to SOF15 without DHT, JPG and DAC. */
const isFrame = (marker: number): boolean =>
  marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc;
/** Markers without a length: TEM, RST0 to RST7, SOI, EOI. */
const isBare = (marker: number): boolean => marker === 0x01 || (marker >= 0xd0 && marker <= 0xd9);

/** JPEG (ITU-T T.81, B.2.2): segment by segment to the frame header, which has height before width. */
function ofJpeg(bytes: Uint8Array): Size | null {
  for (let at = 2; at + 9 < bytes.length;) {
    if (bytes[at] !== 0xff) return null;
    const marker = bytes[at + 1] ?? 0;
    if (marker === 0xff) at += 1;
    else if (isBare(marker)) at += 2;
    else if (isFrame(marker)) return { height: high(bytes, at + 5, 2), width: high(bytes, at + 7, 2) };
    else at += 2 + Math.max(2, high(bytes, at + 2, 2));
  }
  return null;
}

/** WebP (RFC 9649): the first chunk says how large the picture is; each of its three kinds in its own way. */
function ofWebp(bytes: Uint8Array): Size | null {
  switch (textAt(bytes, 12)) {
    case 'VP8X':
      return { width: low(bytes, 24, 3) + 1, height: low(bytes, 27, 3) + 1 };
    case 'VP8L': {
      const bits = low(bytes, 21, 4);
      return { width: (bits % 0x4000) + 1, height: (Math.floor(bits / 0x4000) % 0x4000) + 1 };
    }
    case 'VP8 ':
      return { width: low(bytes, 26, 2) % 0x4000, height: low(bytes, 28, 2) % 0x4000 };
    default:
      return null;
  }
}

/**
 * Width and height in pixels, as the beginning of a picture's file says them, before anything is unpacked: a small file may hold a picture that takes all
 * memory. Null for other files, and where the beginning does not say it.
 */
export function pictureSize(bytes: Uint8Array): Size | null {
  if (starts(bytes, 0, 0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return ofPng(bytes);
  if (starts(bytes, 0, 0xff, 0xd8)) return ofJpeg(bytes);
  return textAt(bytes, 0) === 'RIFF' && textAt(bytes, 8) === 'WEBP' ? ofWebp(bytes) : null;
}
