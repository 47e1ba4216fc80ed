import * as v from 'valibot';
import { failed, done, type Result } from '../result';
import { KeptFrameSchema, MOST_FRAMES, type KeptFrame } from './job';
import type { JobFault } from './load-job';

/** A file of kept frames: plain JSON that names itself, one object a frame. */
export const FRAMES_FORMAT = 1;

const FramesFileSchema = v.strictObject({
  format: v.literal(FRAMES_FORMAT),
  kind: v.literal('frames'),
  frames: v.pipe(v.array(KeptFrameSchema), v.maxLength(MOST_FRAMES)),
});

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
        text: `this is no JSON file, or it is cut short: ${error instanceof Error ? error.message : String(error)}`,
      },
    ]);
  }
  const parsed = v.safeParse(FramesFileSchema, value);
  return parsed.success
    ? done(parsed.output.frames)
    : failed(parsed.issues.map((issue) => ({ path: v.getDotPath(issue) ?? '', text: issue.message })));
}

/** The list with a frame moved from one place to another. */
export function movedFrame(frames: readonly KeptFrame[], from: number, to: number): readonly KeptFrame[] {
  const rest = frames.filter((_, i) => i !== from);
  const moved = frames[from];
  return moved ? [...rest.slice(0, to), moved, ...rest.slice(to)] : frames;
}
