import type { CopyRow } from './copies';

/** A copy as a file that people and other programs can read: bytes are hex, numbers beyond JSON are text. */
export const copyFile = (row: CopyRow): string =>
  JSON.stringify(
    { format: 1, program: 'Bujo', ...row },
    (_, value: unknown) => {
      if (ArrayBuffer.isView(value) && value instanceof Uint8Array)
        return { hex: [...value].map((byte) => byte.toString(16).padStart(2, '0')).join('') };
      return typeof value === 'bigint' ? `${value}` : value;
    },
    2,
  );
