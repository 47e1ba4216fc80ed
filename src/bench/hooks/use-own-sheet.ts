'use client';

import { messageOf } from '../../core/message-of';
import { useState } from 'react';
import { withStation } from '../../core/job/job';
import { loadSheet } from '../../core/sheet/load-sheet';
import { ownCopy } from '../../core/sheet/own-copy';
import type { Sheet } from '../../core/sheet/sheet';
import { sheetFile } from '../../core/sheet/sheet-file';
import { useBench, useBenchState } from '../bench-context';
import { whyKeptOpen } from '../jobs/line-plans';
import { useCurrent } from './use-current';

/** Sections of a sheet as an editor has them: `loadSheet` looks at each before anything is kept. */
export type SheetChange = { readonly [K in keyof Sheet]?: object };

/** Keeps changes of a sheet as a sheet of the user's own, which the present station then uses; `said` tells what became of it. */
export function useOwnSheet(): {
  readonly said: string;
  /** `change` replaces sections of the sheet; false where it is refused, with its path where it does not fit. */
  readonly keep: (sheet: Sheet, change: SheetChange) => Promise<boolean>;
} {
  const bench = useBench();
  const { line, station } = useCurrent();
  const sheets = useBenchState((state) => state.sheets);
  const [said, setSaid] = useState('');
  const keep = async (sheet: Sheet, change: SheetChange): Promise<boolean> => {
    const refuse = (why: string): false => {
      setSaid(why);
      return false;
    };
    const changed = { ...ownCopy(sheet, (slug) => sheets.get(slug)?.sheet.revision ?? 0), ...change };
    const made = loadSheet(sheetFile(changed as Sheet));
    if (!made.ok) return refuse(made.error.map(({ path, text }) => `${path}: ${text}`).join('; '));
    const { slug, revision, name } = made.value;
    const moving = line ? whyKeptOpen(bench.state.getState(), [line.id]) : '';
    if (moving !== '') return refuse(moving);
    try {
      await bench.keepSheet(made.value);
    } catch (error) {
      return refuse(messageOf(error));
    }
    if (line && station)
      bench.changeJob((job) =>
        withStation(job, line.id, station.station, (own) => ({ ...own, sheet: { slug, revision } })),
      );
    setSaid(`Kept as sheet “${name}”, revision ${revision}; this station uses it now.`);
    return true;
  };
  return { said, keep };
}
