'use client';

import { withStation } from '../../core/job/job';
import { FIRST_ROLES, withFirstFacts, type FirstFacts } from '../../core/sheet/begin-sheet';
import { emptySheet, freeSlug } from '../../core/sheet/empty-sheet';
import { revisionsOf } from '../../core/sheet/shelf';
import { useBench, useBenchState } from '../bench-context';
import { useCurrent } from './use-current';
import { useForm } from './use-typed';

/**
 * What beginning a sheet for the chosen station needs; null where there is no station, or its line speaks a language of the drive's own. A sheet
 * that ships is copied, one of the user's own gets a revision.
 */
export function useBeginSheet() {
  const bench = useBench();
  const { line, station, index, key, name, protocol, lineState } = useCurrent();
  const sheets = useBenchState((state) => state.sheets);
  const shipped = useBenchState((state) => state.shippedSlugs);
  const form = useForm('begun sheet', key);
  if (!line || !station || (protocol?.family !== 'modbus' && protocol?.family !== 'uss')) return null;
  const before = index?.sheet;
  const begin = async (facts: FirstFacts): Promise<void> => {
    const isOwn = before !== undefined && !shipped.has(before.slug);
    const called = isOwn ? before.name : `${name}, begun here`;
    const slug = isOwn ? before.slug : freeSlug(called, (known) => sheets.has(known));
    const revision = (revisionsOf(sheets, slug)[0]?.sheet.revision ?? 0) + 1;
    const base = before && !isOwn ? { base: { slug: before.slug, revision: before.revision } } : {};
    const made = withFirstFacts(
      { ...(before ?? emptySheet(slug, called)), ...base, slug, name: called },
      facts,
      revision,
    );
    if (!made.ok)
      throw new Error(
        made.error
          .slice(0, 3)
          .map(({ path, text }) => `${path}: ${text}`)
          .join('; '),
      );
    await bench.keepSheet(made.value);
    bench.changeJob((job) =>
      withStation(job, line.id, station.station, (own) => ({ ...own, sheet: { slug, revision } })),
    );
  };
  return {
    name,
    isUss: protocol.family === 'uss',
    roles: FIRST_ROLES.filter((role) => index?.byRole.has(role) !== true),
    sheetName: before?.name ?? null,
    knowsWords: index?.words !== undefined,
    knowsStop: before?.commands !== undefined,
    off: (lineState?.driven.length ?? 0) > 0 ? 'a drive of this line is in motion' : '',
    text: form.text,
    set: form.put,
    begin,
  };
}
