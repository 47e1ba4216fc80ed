import { leastOf, mostOf } from '../extent';

/** A piece of text as a page holds it: lengths in points (1/72 inch), counted from the page's top left corner; `y` is the top of the letters. */
export interface PlacedText {
  readonly text: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** A part of a page, in points. */
export interface Frame {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** One line of letters on a page: what stands so close that it is read together is one piece. */
export interface PageLine {
  readonly y: number;
  readonly height: number;
  readonly pieces: readonly PlacedText[];
}

/** Letters closer than this, in heights, belong to one word. */
const SAME_WORD = 0.12;
/** Words closer than this, in heights, belong to one piece: a blank is a quarter to a third of a height. */
const SAME_PIECE = 0.75;
/** Pieces whose middles are closer than this, in heights, stand on one line; an index is a little higher or lower. */
const SAME_LINE = 0.5;

/** Whether it has a place: what a file says may be no number at all. */
const isPlaced = ({ x, y, width, height }: PlacedText): boolean =>
  [x, y, width, height].every(Number.isFinite) && height > 0;

/** Whether the middle of a piece lies in a frame. */
export const isWithin = ({ x, y, width, height }: PlacedText, frame: Frame): boolean => {
  const [midX, midY] = [x + width / 2, y + height / 2];
  return midX >= frame.x && midX <= frame.x + frame.width && midY >= frame.y && midY <= frame.y + frame.height;
};

/** The lines of a page's part, from the top, each from the left. */
export function linesOfPage(placed: readonly PlacedText[], frame: Frame): readonly PageLine[] {
  const inside = placed
    .filter((piece) => piece.text.trim() !== '' && isPlaced(piece) && isWithin(piece, frame))
    .sort((a, b) => a.y + a.height / 2 - (b.y + b.height / 2));
  const groups: { middle: number; height: number; pieces: PlacedText[] }[] = [];
  for (const piece of inside) {
    const middle = piece.y + piece.height / 2;
    const last = groups[groups.length - 1];
    if (last && middle - last.middle < SAME_LINE * Math.max(last.height, piece.height)) {
      last.pieces.push(piece);
      // The largest letters say where the line is, not an index that stands higher.
      if (piece.height > last.height) [last.middle, last.height] = [middle, piece.height];
    } else groups.push({ middle, height: piece.height, pieces: [piece] });
  }
  return groups.map(({ pieces }) => {
    const y = leastOf(pieces, (piece) => piece.y);
    const end = mostOf(pieces, (piece) => piece.y + piece.height);
    return { y, height: end - y, pieces: joined([...pieces].sort((a, b) => a.x - b.x)) };
  });
}

/** A piece while it grows: its texts are put together once, however many they are. */
interface Growing {
  readonly texts: string[];
  readonly x: number;
  y: number;
  end: number;
  height: number;
  /** Its last letters end with a blank. */
  isEnded: boolean;
}

function joined(pieces: readonly PlacedText[]): readonly PlacedText[] {
  const made: Growing[] = [];
  for (const { text, x, y, width, height: own } of pieces) {
    const last = made[made.length - 1];
    const height = Math.max(last?.height ?? 0, own);
    const gap = last ? x - last.end : Infinity;
    if (!last || gap > SAME_PIECE * height) {
      made.push({ texts: [text], x, y, end: x + width, height: own, isEnded: text.endsWith(' ') });
      continue;
    }
    const isApart = gap > SAME_WORD * height || last.isEnded || text.startsWith(' ');
    last.texts.push(isApart ? ` ${text}` : text);
    last.y = Math.min(last.y, y);
    last.end = Math.max(last.end, x + width);
    last.height = height;
    last.isEnded = text.endsWith(' ');
  }
  return made.map(({ texts, x, y, end, height }) => ({
    text: texts.join('').replace(/\s+/g, ' ').trim(),
    x,
    y,
    width: end - x,
    height,
  }));
}
