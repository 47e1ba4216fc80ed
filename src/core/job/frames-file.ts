import { messageOf } from '../message-of';
import * as v from 'valibot';
import { hexToBytes } from '../bytes/hex';
import { failed, done, type Result } from '../result';
import type { KeptFrame } from './job';
import { MOST_FRAMES } from './job-limits';
import { KeptFrameSchema } from './job-schema';
import type { JobFault } from './load-job';

/** A file of kept frames: plain JSON that names itself, one object a frame. */
const FRAMES_FORMAT = 1;

const FramesFileSchema = v.strictObject({
  format: v.literal(FRAMES_FORMAT),
  kind: v.literal('frames'),
  frames: v.pipe(v.array(KeptFrameSchema), v.maxLength(MOST_FRAMES)),
});

/** Kept frames as the file that `loadFrames` reads. */
export const framesFileText = (frames: readonly KeptFrame[]): string =>
  `${JSON.stringify({ format: FRAMES_FORMAT, kind: 'frames', frames }, null, 2)}\n`;

/** Reads a file of frames whole, or says with paths why not. */
export function readFramesText(text: string): Result<readonly KeptFrame[], readonly JobFault[]> {
  let value: unknown;
  try {
    value = JSON.parse(text) as unknown;
  } catch (error) {
    return failed([
      {
        path: '',
        text: `this is no JSON file, or it is cut short: ${messageOf(error)}`,
      },
    ]);
  }
  const parsed = v.safeParse(FramesFileSchema, value);
  return parsed.success
    ? done(parsed.output.frames)
    : failed(parsed.issues.map((issue) => ({ path: v.getDotPath(issue) ?? '', text: issue.message })));
}

/** The bytes of a frame, whose hex was checked when it was read. */
export function keptBytes({ hex }: KeptFrame): Uint8Array {
  const bytes = hexToBytes(hex);
  return bytes.ok ? bytes.value : new Uint8Array(0);
}

/** The list with a frame moved from one place to another. */
export function movedFrame(frames: readonly KeptFrame[], from: number, to: number): readonly KeptFrame[] {
  const rest = frames.filter((_, i) => i !== from);
  const moved = frames[from];
  return moved ? [...rest.slice(0, to), moved, ...rest.slice(to)] : frames;
}

/** How many of `found` have an id that a frame in the list has already. */
export function knownFrames(list: readonly KeptFrame[], found: readonly KeptFrame[]): number {
  const ids = new Set(list.map(({ id }) => id));
  return found.filter(({ id }) => ids.has(id)).length;
}

/** What becomes of a frame that is in the list already: it is put in its place, or both are kept. */
export type KnownFrame = 'replace' | 'both';

/** The list with what was found behind it; `freshId` makes the ids of frames that are kept beside their namesakes. */
export function withFrames(
  list: readonly KeptFrame[],
  found: readonly KeptFrame[],
  known: KnownFrame,
  freshId: () => string,
): readonly KeptFrame[] {
  const own = new Set(list.map(({ id }) => id));
  const taken = new Set(own);
  const replaced = new Map<string, KeptFrame>();
  const added: KeptFrame[] = [];
  for (const frame of found) {
    if (!taken.has(frame.id)) added.push(frame);
    else if (known === 'replace' && own.has(frame.id) && !replaced.has(frame.id)) replaced.set(frame.id, frame);
    else added.push({ ...frame, id: freshId() });
    taken.add(frame.id);
  }
  return [...list.map((frame) => replaced.get(frame.id) ?? frame), ...added];
}
