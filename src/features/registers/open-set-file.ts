import type { Bench } from '../../bench/bench';
import { newId } from '../../bench/new-id';
import { stationKey } from '../../bench/state/bench-state';
import { askFileWorker } from '../../bench/workers/ask-file-worker';
import { counted } from '../../core/counted';
import { saidText } from '../../core/sets/said';
import type { OpenedSet } from '../../core/sets/open-set';
import { readingOf } from '../../core/sets/set-reading';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { SetRow } from '../../store/database';
import { putSet, registersStore } from '../../bench/registers/registers-store';
import { nowId } from '../../bench/registers/run-reading';

/** More lines or numbers than this are counted only. */
const MOST_SAID = 8;

/** The drive that a file is taken for. */
type Where = Pick<SetRow, 'job' | 'line' | 'station'>;

/** Takes a file as another witness of a drive; what is said about it: what was taken first, then what is to be known before it is used. */
export async function openSetFile(
  bench: Bench,
  file: File,
  index: SheetIndex,
  where: Where,
): Promise<readonly string[]> {
  const told = await askFileWorker({ kind: 'open-set', file, sheet: index.sheet });
  if (told.kind !== 'set')
    return [
      `${file.name}: ${told.kind === 'faults' ? told.faults.map(({ text }) => text).join('; ') : 'it was not read'}`,
    ];
  const { opened } = told;
  const { slug, revision } = opened.sheet ?? index.sheet;
  const row: SetRow = {
    ...where,
    id: newId(),
    kind: 'file',
    name: opened.name ?? file.name,
    sheet: { slug, revision },
    startedMs: opened.atMs ?? file.lastModified,
    reading: readingOf(opened.said),
  };
  await bench.sets.keepSet(row);
  putSet(row);
  return [
    `${row.name}: ${counted(opened.said.size, 'value')} taken as another witness`,
    ...identityWarnings(bench, index, opened, where),
    ...sheetWarnings(index, opened),
    ...opened.unread.slice(0, MOST_SAID).map(({ line, why }) => `line ${line} gave nothing: ${why}`),
    ...(opened.unread.length > MOST_SAID ? [`and ${opened.unread.length - MOST_SAID} more lines gave nothing`] : []),
  ];
}

function sheetWarnings({ sheet: own }: SheetIndex, { sheet, missing }: OpenedSet): readonly string[] {
  const named = missing.slice(0, MOST_SAID).map(({ number, name }) => `${number} ${name}`);
  const more = missing.length > MOST_SAID ? ` and ${missing.length - MOST_SAID} others` : '';
  return [
    ...(missing.length === 0
      ? []
      : [
          `${counted(missing.length, 'value')} of it ${missing.length === 1 ? 'is' : 'are'} not in this sheet: ${named.join(', ')}${more}`,
        ]),
    ...(sheet && sheet.slug !== own.slug ? [`it is of another kind of drive: ${sheet.name}, not ${own.name}`] : []),
    ...(sheet?.slug === own.slug && sheet.revision !== own.revision
      ? [`it was read with revision ${sheet.revision} of the sheet, and is read with that one here where it is known`]
      : []),
  ];
}

/** Where the set is of another size or firmware than the drive says of itself. */
function identityWarnings(
  bench: Bench,
  index: SheetIndex,
  { identity }: OpenedSet,
  { job, line, station }: Where,
): readonly string[] {
  const now = registersStore.getState().sets.get(nowId(job, stationKey(line, station)))?.reading.said;
  const name = bench.state.getState().job?.lines.find(({ id }) => id === line)?.name ?? line;
  return (['type-code', 'firmware'] as const).flatMap((role): readonly string[] => {
    const parameter = index.byRole.get(role);
    const said = identity[role];
    if (!parameter || said === undefined) return [];
    const own = now?.get(parameter.number);
    if (own?.kind !== 'value')
      return [
        `its ${parameter.name} is ${said}; that of station ${station} on ${name} was not read yet: read it before anything is written`,
      ];
    const here = saidText(index, parameter, own, new Map());
    return here === said
      ? []
      : [
          `its ${parameter.name} is ${said}, this drive’s is ${here}: what belongs to the size stays behind, and the rest is decided one by one`,
        ];
  });
}
