import { LARGEST_PHOTO_FILE, MOST_PHOTO_BYTES, MOST_PIXELS, SIZES, sizeWithin } from '../core/handover/photo';
import { pictureSize } from '../core/handover/picture-size';
import type { FileAnswer } from '../messages/file';

/** What a camera writes before the picture's size lies within this. */
const HEAD = 1_000_000;

const refused = (text: string): FileAnswer => ({ kind: 'faults', faults: [{ path: '', text }] });

/**
 * A photograph as it is kept: upright as the camera meant it, sized down, a JPEG that holds nothing but the picture (what a camera writes beside it,
 * such as where it was taken, is left behind). A file that the browser cannot read as a picture is refused with a sentence.
 */
export async function sizedDown(file: File): Promise<FileAnswer> {
  if (file.size > LARGEST_PHOTO_FILE)
    return refused(
      `${file.name} has ${Math.round(file.size / 1e6)} MB; a photograph has ${LARGEST_PHOTO_FILE / 1e6} MB at most`,
    );
  const said = pictureSize(new Uint8Array(await file.slice(0, HEAD).arrayBuffer()));
  if (said && said.width * said.height > MOST_PIXELS)
    return refused(
      `${file.name} is a picture of ${said.width} × ${said.height} pixels; ${MOST_PIXELS / 1e6} million are the most`,
    );
  let picture: ImageBitmap;
  try {
    picture = await createImageBitmap(file);
  } catch {
    return refused(`${file.name} is no picture that this browser reads; JPEG, PNG and WebP are`);
  }
  try {
    for (const { most, quality } of SIZES) {
      const { width, height } = sizeWithin(picture.width, picture.height, most);
      const canvas = new OffscreenCanvas(width, height);
      const pen = canvas.getContext('2d');
      if (!pen) return refused('this browser cannot draw pictures in a worker');
      // What is transparent would become black.
      pen.fillStyle = 'white';
      pen.fillRect(0, 0, width, height);
      pen.drawImage(picture, 0, 0, width, height);
      const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality });
      if (blob.size <= MOST_PHOTO_BYTES)
        return { kind: 'photo', width, height, jpeg: new Uint8Array(await blob.arrayBuffer()) };
    }
    return refused(`${file.name} cannot be made small enough to be kept`);
  } finally {
    picture.close();
  }
}
