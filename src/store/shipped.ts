import * as v from 'valibot';
import { JobSchema, type Job } from '../core/job/job';
import { loadSheet } from '../core/sheet/load-sheet';
import type { Sheet } from '../core/sheet/sheet';

/** Where the local server gives what ships. */
const PLACE = '/shipped';

const ShippedFilesSchema = v.object({
  /** Sheets by their names. */
  sheets: v.record(v.string(), v.unknown()),
  unlisted: v.optional(v.record(v.string(), v.unknown()), {}),
  /** The demo job *Alder Ford*, with its fixed ids. */
  demo: v.unknown(),
});

/** Sheets that come with the program, read-only (an edit makes a copy), and the demo job. */
export interface Shipped {
  readonly sheets: readonly Sheet[];
  /** Sheets that only stand-ins know. */
  readonly unlisted: readonly Sheet[];
  readonly demo: Job;
}

/** What ships is read like any import, so a broken file stops the start with its place and not later with a blank view. */
export function readShipped({ sheets, unlisted, demo }: v.InferOutput<typeof ShippedFilesSchema>): Shipped {
  const read = (files: Readonly<Record<string, unknown>>): readonly Sheet[] =>
    Object.entries(files).map(([name, file]) => {
      const loaded = loadSheet(file);
      if (loaded.ok) return loaded.value;
      const why = loaded.error.map(({ path, text }) => `${path}: ${text}`).join('; ');
      throw new Error(`the shipped sheet ${name} is broken: ${why}`);
    });
  return {
    sheets: read(sheets),
    unlisted: read(unlisted),
    demo: v.parse(JobSchema, demo),
  };
}

/** Asks the local server. Rejects with a sentence where it does not answer. */
export async function fetchShipped(): Promise<Shipped> {
  const answer = await fetch(PLACE);
  if (!answer.ok) throw new Error(`the local server has no sheets: it answers ${answer.status}`);
  return readShipped(v.parse(ShippedFilesSchema, await answer.json()));
}
