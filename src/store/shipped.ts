import * as v from 'valibot';
import alderFord from '../../demo/alder-ford.json';
import curlew from '../../sheets/curlew.json';
import dunlin from '../../sheets/dunlin.json';
import linnet from '../../sheets/linnet.json';
import pipit from '../../sheets/pipit.json';
import siskin from '../../sheets/siskin.json';
import tern from '../../sheets/tern.json';
import wren from '../../sheets/wren.json';
import { JobSchema, type Job } from '../core/job/job';
import { loadSheet } from '../core/sheet/load-sheet';
import type { Sheet } from '../core/sheet/sheet';

/** What ships is read like any import, so a broken file stops the start with its place and not later with a blank view. */
function shipped(name: string, file: unknown): Sheet {
  const loaded = loadSheet(file);
  if (!loaded.ok)
    throw new Error(
      `the shipped sheet ${name} is broken: ${loaded.error.map(({ path, text }) => `${path}: ${text}`).join('; ')}`,
    );
  return loaded.value;
}

let read: readonly Sheet[] | null = null;

/** Sheets that come with the program; read once, read-only, an edit makes a copy. */
export function shippedSheets(): readonly Sheet[] {
  read ??= Object.entries({ tern, wren, curlew, dunlin, pipit, siskin, linnet }).map(([name, file]) =>
    shipped(name, file),
  );
  return read;
}

/** The demo job *Alder Ford*, with its fixed ids. */
export const demoJob = (): Job => v.parse(JobSchema, alderFord);
