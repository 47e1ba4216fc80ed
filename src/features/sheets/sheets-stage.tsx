'use client';

import Button from '@mui/material/Button';
import { useMemo, useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { askFileWorker } from '../../bench/workers/ask-file-worker';
import { useCurrent } from '../../bench/hooks/use-current';
import { withStation } from '../../core/job/job';
import { messageOf } from '../../core/message-of';
import { checkSheet } from '../../core/sheet/check-sheet';
import { revisionsOf } from '../../core/sheet/shelf';
import type { Sheet } from '../../core/sheet/sheet';
import { sheetFile } from '../../core/sheet/sheet-file';
import { useLater } from '../../ui/later';
import { ActButton, whyOff } from '../../ui/act-button';
import { StageHead, Warning } from '../../ui/panel';
import { Tabs } from '../../ui/tabs';
import { UnreadForm, useUnread } from '../../ui/unread';
import { UndoButtons } from '../../ui/undo-buttons';
import { AboutPart } from './about-part';
import { DrivePart } from './drive-part';
import { FilePart } from './file-part';
import { ListsPart } from './lists-part';
import { ManualPart } from './manual/manual-part';
import { ParametersPart } from './parameters-part';
import { RevisionsPart } from './revisions-part';
import { closeDraft, keptDraft, redoSheet, setPart, undoSheet, useDraftSheet, useSheetDrafts } from './sheet-drafts';
import { SheetList } from './sheet-list';
import styles from './sheets.module.css';
import { TablePart } from './table-part';
import { WordsPart } from './words-part';

const PARTS = [
  { id: 'about', name: 'About', Body: AboutPart },
  { id: 'parameters', name: 'Entries', Body: ParametersPart },
  { id: 'table', name: 'From a table', Body: TablePart },
  { id: 'manual', name: 'From the manual', Body: ManualPart },
  { id: 'file', name: 'From a file', Body: FilePart },
  { id: 'drive', name: 'From the drive', Body: DrivePart },
  { id: 'words', name: 'Words and Stop', Body: WordsPart },
  { id: 'lists', name: 'Scalings, faults, keypad', Body: ListsPart },
  { id: 'revisions', name: 'Revisions', Body: RevisionsPart },
] as const;
type PartId = (typeof PARTS)[number]['id'];

/** More faults than this are counted only. */
const MOST_FAULTS = 6;

/** Sheets: the drive's manual as data, made and changed here. */
export function SheetsStage() {
  const sheet = useDraftSheet();
  return sheet ? (
    <SheetEditor key={sheet.slug} sheet={sheet} />
  ) : (
    <div className={styles.stack}>
      <StageHead title="Sheets" aside="what the bench knows of each kind of drive" />
      <SheetList />
    </div>
  );
}

function SheetEditor({ sheet }: { readonly sheet: Sheet }) {
  const part = useSheetDrafts((drafts) => drafts.part);
  const kept = useSheetDrafts(({ drafts }) => drafts.get(sheet.slug)?.kept ?? null);
  const steps = useSheetDrafts(({ drafts }) => drafts.get(sheet.slug)?.history);
  const looked = useLater(sheet, sheet);
  const faults = useMemo(() => checkSheet(looked), [looked]);
  const { id, Body } = PARTS.find((candidate) => candidate.id === part) ?? PARTS[0];
  const unread = useUnread();
  return (
    <UnreadForm unread={unread}>
      <StageHead
        title={sheet.name}
        aside={
          kept === null
            ? 'not kept yet: no station can use it'
            : kept === sheet
              ? `revision ${kept.revision}, as it is kept`
              : `changed since revision ${kept.revision}`
        }
      >
        <Button variant="outlined" color="inherit" onClick={closeDraft}>
          All sheets
        </Button>
        <UndoButtons
          variant="outlined"
          canUndo={(steps?.past.length ?? 0) > 0}
          canRedo={(steps?.future.length ?? 0) > 0}
          undo={undoSheet}
          redo={redoSheet}
        />
        <KeepButton sheet={sheet} kept={kept} faults={faults.length} unread={unread.why !== ''} />
        <UseButton kept={kept} />
      </StageHead>
      {faults.slice(0, MOST_FAULTS).map(({ path, text }) => (
        <Warning key={`${path} ${text}`}>
          {entryName(sheet, path)}: {text}.
        </Warning>
      ))}
      {faults.length > MOST_FAULTS && <p className={styles.soft}>And {faults.length - MOST_FAULTS} more.</p>}
      <Tabs<PartId> label="Parts of the sheet" tabs={PARTS} chosen={id} onChoose={setPart}>
        <Body sheet={sheet} />
      </Tabs>
    </UnreadForm>
  );
}

/** `parameters[3].min` as `entry 11.03, min`. */
function entryName({ parameters = [] }: Sheet, path: string): string {
  const [, at, field = ''] = /^parameters\[(\d+)\](?:\.(.*))?$/.exec(path) ?? [];
  const parameter = at === undefined ? undefined : parameters[Number(at)];
  return parameter ? `entry ${parameter.number}${field === '' ? '' : `, ${field}`}` : path;
}

function KeepButton({
  sheet,
  kept,
  faults,
  unread,
}: {
  readonly sheet: Sheet;
  readonly kept: Sheet | null;
  readonly faults: number;
  /** A field shows what is not in the sheet. */
  readonly unread: boolean;
}) {
  const bench = useBench();
  const sheets = useBenchState((state) => state.sheets);
  const [said, setSaid] = useState('');
  const newest = revisionsOf(sheets, sheet.slug)[0]?.sheet;
  const revision = (newest?.revision ?? 0) + 1;
  const missed = kept && newest && newest.revision > kept.revision ? newest.revision : null;
  const keep = async (): Promise<string> => {
    const made = await askFileWorker({ kind: 'load-sheet', sheet: sheetFile({ ...sheet, revision }) });
    if (made.kind === 'faults')
      return made.faults
        .slice(0, 3)
        .map(({ path, text }) => (path === '' ? text : `${entryName(sheet, path)}: ${text}`))
        .join('; ');
    if (made.kind !== 'sheet') return '';
    await bench.keepSheet(made.sheet);
    keptDraft(made.sheet, sheet);
    return '';
  };
  const off = whyOff(
    [unread, 'a field below shows what is not in the sheet'],
    [kept === sheet, 'nothing is changed'],
    [faults > 0, 'see what is wrong below'],
  );
  return (
    <>
      <ActButton variant="contained" off={off} onClick={() => void keep().catch(messageOf).then(setSaid)}>
        Keep as revision {revision}
      </ActButton>
      {missed !== null && (
        <span className={styles.bad}>
          Revision {missed} was kept meanwhile and is not in this draft: Revisions says what differs.
        </span>
      )}
      {said !== '' && <span className={styles.bad}>{said}</span>}
    </>
  );
}

/** The station that is worked on goes by this revision from now on. */
function UseButton({ kept }: { readonly kept: Sheet | null }) {
  const bench = useBench();
  const { line, station, name, lineState } = useCurrent();
  if (!kept || !line || !station) return null;
  const { slug, revision } = kept;
  if (station.sheet?.slug === slug && station.sheet.revision === revision)
    return <span className={styles.soft}>{name} uses it</span>;
  const use = (): void =>
    void bench.changeJob((job) =>
      withStation(job, line.id, station.station, (own) => ({ ...own, sheet: { slug, revision } })),
    );
  return (
    <ActButton
      variant="outlined"
      color="inherit"
      off={(lineState?.driven.length ?? 0) > 0 ? 'a drive of this line is in motion' : ''}
      onClick={use}
    >
      Use it at {name}
    </ActButton>
  );
}
