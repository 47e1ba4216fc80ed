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

/** Whether the middle of a piece lies in a frame. */
export const isWithin = ({ x, y, width, height }: PlacedText, frame: Frame): boolean => {
  const [midX, midY] = [x + width / 2, y + height / 2];
  return midX >= frame.x && midX <= frame.x + frame.width && midY >= frame.y && midY <= frame.y + frame.height;
};

/** The lines of a page's part, from the top, each from the left. */
export function linesOfPage(placed: readonly PlacedText[], frame: Frame): readonly PageLine[] {
  const inside = placed
    .filter((piece) => piece.text.trim() !== '' && piece.height > 0 && isWithin(piece, frame))
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
    const y = Math.min(...pieces.map((piece) => piece.y));
    const end = Math.max(...pieces.map((piece) => piece.y + piece.height));
    return { y, height: end - y, pieces: joined([...pieces].sort((a, b) => a.x - b.x)) };
  });
}

function joined(pieces: readonly PlacedText[]): readonly PlacedText[] {
  const made: PlacedText[] = [];
  for (const piece of pieces) {
    const last = made[made.length - 1];
    const height = Math.max(last?.height ?? 0, piece.height);
    const gap = last ? piece.x - (last.x + last.width) : Infinity;
    if (!last || gap > SAME_PIECE * height) {
      made.push(piece);
      continue;
    }
    const isApart = gap > SAME_WORD * height || last.text.endsWith(' ') || piece.text.startsWith(' ');
    made[made.length - 1] = {
      text: `${last.text.trimEnd()}${isApart ? ' ' : ''}${piece.text.trimStart()}`,
      x: last.x,
      y: Math.min(last.y, piece.y),
      width: Math.max(last.x + last.width, piece.x + piece.width) - last.x,
      height,
    };
  }
  return made.map((piece) => ({ ...piece, text: piece.text.replace(/\s+/g, ' ').trim() }));
}
