import Papa from 'papaparse';
import { fromBase64 } from '../bytes/base64';
import { wireListCsv } from '../cable/check-cable';
import { wiringCsv } from '../cable/check-wiring';
import { sheetsOfJob, jobFileText } from '../job/job-file';
import { settingsText } from '../line/settings';
import { cardRows, wordCard } from '../papers/word-card';
import { blocksOfDrive } from '../process-image/register-blocks';
import { declarationsOf } from '../process-image/controller';
import { csvOfBlock } from '../process-image/controller-text';
import { placeOfOwn } from '../process-image/own-block';
import type { OwnBlock } from '../process-image/own-block-schema';
import { csvOfSet, harmless } from '../sets/set-csv';
import { setFileOf } from '../sets/set-file';
import { sheetFile } from '../sheet/sheet-file';
import { reportOf } from '../trial/report';
import { csvOfReport } from '../trial/trial-csv';
import type { Block, VisitRecord } from './document';
import type { HandoverDrive, HandoverInput } from './drive';
import { recordText } from './html';

/** A file of an archive: its path with `/`, and what is in it. */
export interface ArchiveFile {
  readonly path: string;
  readonly text: string;
}

const blocksOf = <Kind extends Block['kind']>(
  { sections }: VisitRecord,
  kind: Kind,
): readonly Extract<Block, { kind: Kind }>[] =>
  sections
    .flatMap(({ blocks }) => blocks)
    .filter((block): block is Extract<Block, { kind: Kind }> => block.kind === kind);

const numbered = (folder: string, i: number, title: string, ending: string): string =>
  `${folder}/${String(i + 1).padStart(2, '0')}-${plain(title)}.${ending}`;

/** The photographs of a record as files, in its order. */
export const photoFiles = (record: VisitRecord): readonly { readonly path: string; readonly bytes: Uint8Array }[] =>
  blocksOf(record, 'picture').map(({ title, jpeg }, i) => ({
    path: numbered('photographs', i, title, 'jpg'),
    bytes: fromBase64(jpeg),
  }));

/** The curves of a record, in its order, with the names of their pictures. */
export const curveFiles = (
  record: VisitRecord,
): readonly { readonly path: string; readonly curve: Extract<Block, { kind: 'curve' }> }[] =>
  blocksOf(record, 'curve').map((curve, i) => ({ path: numbered('curves', i, curve.title, 'png'), curve }));

/** `K1 kiln, 3` as a name that every file system takes. */
const plain = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .toLowerCase()
    .slice(0, 60) || 'one';

const driveFile = ({ line, station }: HandoverDrive): string =>
  `${plain(line.name)}-${station.station}-${plain(station.name)}`;

/** What a controller's programmer needs: of each drive its words and places, and its cyclic blocks as declarations; and the blocks that the user laid out. */
export const controllerFiles = ({ drives, job }: HandoverInput): readonly ArchiveFile[] =>
  unique([
    ...(job.blocks ?? []).flatMap(filesOfBlock),
    ...drives.flatMap((drive) => {
      const { line, station, index, protocol } = drive;
      if (!index) return [];
      const link = [line.name, line.serial ? settingsText(line.serial) : ''].filter((part) => part !== '').join(', ');
      const card = wordCard(index, station.station, link, protocol?.placesOf(index) ?? null);
      const rows = cardRows(card).map((row) => row.map(harmless));
      return [
        { path: `controller/${driveFile(drive)}-words.csv`, text: `${Papa.unparse(rows, { newline: '\r\n' })}\r\n` },
        ...blocksOfDrive(index).flatMap(({ id, items, direction }): readonly ArchiveFile[] => {
          const area = direction === 'to-drive' ? 'Q' : 'I';
          const made = declarationsOf(items, { area, start: 0, counts: 'bytes' });
          return made.ok ? [{ path: `controller/${driveFile(drive)}-${id}.st`, text: made.value }] : [];
        }),
      ];
    }),
  ]);

/** A block of the user's own as a table and, where each item has an address, as declarations. */
function filesOfBlock(block: OwnBlock): readonly ArchiveFile[] {
  const place = placeOfOwn(block);
  const path = `controller/block-${plain(block.name)}`;
  const declared = declarationsOf(block.items, place);
  return [
    { path: `${path}.csv`, text: csvOfBlock(block, place, null) },
    ...(declared.ok ? [{ path: `${path}.st`, text: declared.value }] : []),
  ];
}

/** The record itself, not a byte more than its digest is made of. */
export const recordFile = (record: VisitRecord): ArchiveFile => ({ path: 'record.json', text: recordText(record) });

/** Everything that the bench knows of a visit as open files beside its record, but the trace: that is read where it is kept. */
export function archiveFiles(input: HandoverInput): readonly ArchiveFile[] {
  const { job, drives, madeMs } = input;
  const sheets = new Map(
    drives.flatMap(({ index, station: { sheet } }) =>
      index && sheet ? [[`${sheet.slug} ${sheet.revision}`, index.sheet] as const] : [],
    ),
  );
  return unique([
    {
      path: 'job.json',
      text: jobFileText({ job, sheets: sheetsOfJob(job, (slug, revision) => sheets.get(`${slug} ${revision}`)) }),
    },
    ...[...sheets.values()].map((sheet) => ({
      path: `sheets/${sheet.slug}-${sheet.revision}.json`,
      text: `${JSON.stringify(sheetFile(sheet), null, 2)}\n`,
    })),
    ...controllerFiles(input),
    ...job.lines.flatMap(({ name, cable }) =>
      cable ? [{ path: `cables/${plain(name)}.csv`, text: wireListCsv(cable) }] : [],
    ),
    ...(job.wiring ? [{ path: 'cables/wiring.csv', text: wiringCsv(job.wiring) }] : []),
    ...drives.flatMap((drive): readonly ArchiveFile[] => {
      const { now, runs, station, line } = drive;
      const at = new Date(now?.startedMs ?? madeMs).toISOString();
      const about = {
        name: station.name,
        at,
        job: job.id,
        line: line.id,
        station: station.station,
        stationName: station.name,
      };
      return [
        ...(now
          ? [
              {
                path: `values/${driveFile(drive)}.json`,
                text: `${JSON.stringify(setFileOf(now.index, now.said, about), null, 2)}\n`,
              },
              { path: `values/${driveFile(drive)}.csv`, text: csvOfSet(now.index, now.said, 'point') },
            ]
          : []),
        ...runs.map(({ index, compiled, run, startedMs }) => ({
          path: `trials/${driveFile(drive)}-${plain(compiled.trial.name)}-${new Date(startedMs).toISOString().slice(0, 16).replace(/[:T-]/g, '')}.csv`,
          text: csvOfReport(reportOf(index, compiled, run)),
        })),
      ];
    }),
  ]);
}

/** Two drives may have one name: the later one's file gets a number, and none is lost. */
function unique(files: readonly ArchiveFile[]): readonly ArchiveFile[] {
  const taken = new Set<string>();
  return files.map(({ path, text }) => {
    const dot = path.lastIndexOf('.');
    let own = path;
    for (let i = 2; taken.has(own); i++) own = `${path.slice(0, dot)}-${i}${path.slice(dot)}`;
    taken.add(own);
    return { path: own, text };
  });
}
