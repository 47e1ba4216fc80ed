'use client';

import Button from '@mui/material/Button';
import { useEffect, useMemo } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { usePhotoRows } from '../../bench/hooks/use-photos';
import { useKeptSets } from '../../bench/registers/use-kept-sets';
import { recordDifferences } from '../../core/handover/differences';
import type { VisitRecord } from '../../core/handover/document';
import { counted } from '../../core/counted';
import { Panel, StageHead } from '../../ui/panel';
import { DifferencesPanel } from './differences-panel';
import { OutPanel } from './out-panel';
import { handoverStore, shownRecord, useHandover } from './handover-store';
import styles from './handover.module.css';
import { makeNow, readVisits } from './record-acts';
import { RecordsPanel } from './records-panel';
import { RoomPanel } from './room-panel';
import { SectionList } from './section-list';
import { SectionView } from './section-view';
import { VisitPanel } from './visit-panel';

/** Texts are put into the record when nobody has typed for so long. */
const MADE_AFTER_MS = 400;

/** Handover: the record of the visit, which writes itself out of what was seen, sent, answered and typed. */
export function HandoverStage() {
  const bench = useBench();
  const job = useBenchState((state) => state.job);
  const visit = useHandover((state) => state.visit);
  const isRead = useHandover((state) => state.isRead);
  const isMaking = useHandover((state) => state.isMaking);
  const shown = useHandover(shownRecord);
  const isClosed = useHandover((state) => state.shown !== '');
  const section = useHandover((state) => state.section);
  const news = useHandover((state) => state.news);
  const beside = useHandover(({ records, beside: digest }) => records.find((row) => row.digest === digest) ?? null);
  useKeptSets();
  const photos = usePhotoRows();
  useEffect(() => void readVisits(bench), [bench, job?.id]);
  useEffect(() => {
    if (!job || !isRead) return undefined;
    const timer = setTimeout(() => void makeNow(bench), MADE_AFTER_MS);
    return () => clearTimeout(timer);
  }, [bench, job, visit, photos, isRead]);
  const differences = useMemo(
    () => (beside && shown ? recordDifferences(beside.record, shown.record) : null),
    [beside, shown],
  );
  const own = shown?.record.sections.find(({ id }) => id === section) ?? null;
  return (
    <>
      <StageHead title="Handover" aside={shown ? openText(shown.record) : ''}>
        <Button
          variant="outlined"
          color="inherit"
          onClick={() => {
            handoverStore.setState({ shown: '' });
            void makeNow(bench);
          }}
        >
          As of now
        </Button>
      </StageHead>
      <div className={styles.stage} aria-busy={isMaking}>
        <div className={styles.stack}>
          {isRead && (
            <>
              <VisitPanel />
              <SectionList record={shown?.record ?? null} />
              <RecordsPanel />
              <RoomPanel />
            </>
          )}
        </div>
        <div className={styles.stack}>
          <OutPanel />
          {news.length > 0 && (
            <Panel title="What came of it">
              {news.map((text, i) => (
                <p key={i} role="status" className={styles.news}>
                  {text}
                </p>
              ))}
            </Panel>
          )}
          {differences && beside && <DifferencesPanel differences={differences} before={beside.record} />}
          {shown === null ? (
            <Panel title="The record">It is being made …</Panel>
          ) : own === null ? (
            <Panel title="Left out">This section is not in the record.</Panel>
          ) : (
            <SectionView section={own} isClosed={isClosed} />
          )}
        </div>
      </div>
    </>
  );
}

/** How many points are open, by the record's first section. */
function openText({ sections }: VisitRecord): string {
  const rows =
    sections.find(({ id }) => id === 'open')?.blocks.flatMap((block) => (block.kind === 'table' ? block.rows : [])) ??
    [];
  const bad = rows.filter(({ mark }) => mark === 'bad').length;
  return rows.length === 0
    ? 'nothing is open'
    : `${counted(rows.length, 'point')} open${bad > 0 ? `, ${bad} of them not as they should be` : ''}`;
}
