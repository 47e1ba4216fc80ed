/** What a photograph is of: the plant, a line, a drive by its station's own name in the job, a run of a trial. */
export type PhotoOf =
  | { readonly of: 'plant' }
  | { readonly of: 'line'; readonly line: string }
  | { readonly of: 'drive'; readonly line: string; readonly station: string }
  | { readonly of: 'run'; readonly run: string };

/** A photograph as it goes into a record: a JPEG that was sized down, without what the camera wrote beside it. */
export interface Photo {
  readonly id: string;
  readonly of: PhotoOf;
  readonly caption: string;
  /** When it was put here, wall clock, milliseconds: when it was taken nobody proves. */
  readonly atMs: number;
  readonly width: number;
  readonly height: number;
  readonly jpeg: Uint8Array;
}

/** The longest side of a photograph that is kept, in pixels: a name plate that fills it is read. */
export const LONGEST_SIDE = 1600;
/** Most bytes of one that is kept. */
export const MOST_PHOTO_BYTES = 700_000;
/** A larger file is refused before it is read. */
export const LARGEST_PHOTO_FILE = 40_000_000;
/** A picture of more pixels takes more memory than a browser gives; a camera makes a tenth of it. */
export const MOST_PIXELS = 300_000_000;
/** Most characters of a caption. */
export const MOST_CAPTION = 400;

/** The size of a picture of `width` by `height` pixels within a square of `most`, its shape kept; never larger than it is. */
export function sizeWithin(
  width: number,
  height: number,
  most: number,
): { readonly width: number; readonly height: number } {
  const share = Math.min(1, most / Math.max(width, height));
  return { width: Math.max(1, Math.round(width * share)), height: Math.max(1, Math.round(height * share)) };
}

/** Ways in which a picture is made smaller, one after the other, until it has no more bytes than are kept. */
export const SIZES: readonly { readonly most: number; readonly quality: number }[] = [
  { most: LONGEST_SIDE, quality: 0.82 },
  { most: LONGEST_SIDE, quality: 0.6 },
  { most: 1200, quality: 0.6 },
  { most: 800, quality: 0.5 },
];

/** Whether two things that a photograph is of are the same one. */
export const sameOf = (a: PhotoOf, b: PhotoOf): boolean => JSON.stringify(a) === JSON.stringify(b);
