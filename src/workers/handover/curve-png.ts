import { drawCurve, PICTURE } from '../../core/handover/curve';
import type { Block } from '../../core/handover/document';

type Curve = Extract<Block, { kind: 'curve' }>;

/** Points of the picture to one of the drawing. */
const SHARP = 2;
const TEXT_ROOM = 28;
const COLORS = { paper: '#ffffff', band: '#e4dccb', line: '#1f6f64', ink: '#1f2a30' } as const;

const pathOf = (points: string): Path2D => new Path2D(points === '' ? '' : `M${points.replaceAll(' ', ' L')}`);

/** The curve of a record as a picture that any program opens; null where nothing here can draw one: the numbers are in the record all the same. */
export async function curvePng(curve: Curve): Promise<Uint8Array | null> {
  if (typeof OffscreenCanvas === 'undefined') return null;
  const { width, height, left, bottom, top } = PICTURE;
  const canvas = new OffscreenCanvas(SHARP * width, SHARP * (height + TEXT_ROOM));
  const pen = canvas.getContext('2d');
  if (!pen) return null;
  const { band, line, least, most, longest } = drawCurve(curve);
  pen.scale(SHARP, SHARP);
  pen.fillStyle = COLORS.paper;
  pen.fillRect(0, 0, width, height + TEXT_ROOM);
  pen.font = '12px sans-serif';
  pen.fillStyle = COLORS.ink;
  pen.fillText(`${curve.title}: expected (band) and seen (line)`, 2, 16, width - 4);
  pen.translate(0, TEXT_ROOM);
  pen.fillStyle = COLORS.band;
  pen.fill(pathOf(band));
  pen.strokeStyle = COLORS.line;
  pen.lineWidth = 1.5;
  pen.stroke(pathOf(line));
  pen.strokeStyle = COLORS.ink;
  pen.lineWidth = 1;
  pen.stroke(new Path2D(`M${left},${top} V${height - bottom} H${width}`));
  pen.fillStyle = COLORS.ink;
  pen.fillText(curve.unit, 2, (height - bottom) / 2);
  pen.textAlign = 'right';
  pen.fillText(most, left - 4, top + 8);
  pen.fillText(least, left - 4, height - bottom);
  pen.fillText(`${longest} s`, width, height - 6);
  const blob = await canvas.convertToBlob({ type: 'image/png' }).catch(() => null);
  return blob && new Uint8Array(await blob.arrayBuffer());
}
