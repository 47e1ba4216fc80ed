import * as v from 'valibot';
import { JobSchema } from '../core/job/job-schema';
import { loadSheet } from '../core/sheet/load-sheet';
import type { Sheet } from '../core/sheet/sheet';
import type { Shipped } from './shipped';

/** What ships, as it stands in its files. */
export interface ShippedSources {
  /** Sheets by their names, and the revisions before the present ones. */
  readonly sheets: Readonly<Record<string, unknown>>;
  readonly earlier: Readonly<Record<string, unknown>>;
  readonly unlisted: Readonly<Record<string, unknown>>;
  /** The demo job *Alder Ford*, with its fixed ids. */
  readonly demo: unknown;
}

/**
 * What ships is read like any import, by the local server before it gives it away: a broken file stops the start with its place and not later
 * with a blank view, and the page need not carry what reads a sheet.
 */
export function readShipped({ sheets, earlier, unlisted, demo }: ShippedSources): Shipped {
  const read = (files: Readonly<Record<string, unknown>>): readonly Sheet[] =>
    Object.entries(files).map(([name, file]) => {
      const loaded = loadSheet(file);
      if (loaded.ok) return loaded.value;
      const why = loaded.error.map(({ path, text }) => `${path}: ${text}`).join('; ');
      throw new Error(`the shipped sheet ${name} is broken: ${why}`);
    });
  return { sheets: [...read(sheets), ...read(earlier)], unlisted: read(unlisted), demo: v.parse(JobSchema, demo) };
}
