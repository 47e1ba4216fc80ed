import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import { type SectionId, type VisitRecord } from '../../core/handover/document';
import { NO_VISIT, type Visit } from '../../core/handover/visit';
import type { Paper } from '../../core/handover/html';
import type { RecordRow } from '../../store/database';

/** A record with the digest of its JSON. */
export interface DigestedRecord {
  readonly record: VisitRecord;
  readonly digest: string;
}

interface HandoverState {
  /** The job whose visit is here; empty until it was read. */
  readonly job: string;
  /** What was put to its record before is here: until then nothing can be typed that this would undo. */
  readonly isRead: boolean;
  readonly visit: Visit;
  /** Records of the job that are closed, the oldest first. */
  readonly records: readonly RecordRow[];
  /** The record as it was made last; null before. */
  readonly made: DigestedRecord | null;
  readonly isMaking: boolean;
  /** All drives that can be reached are being read. */
  readonly isReading: boolean;
  /** The digest of the closed record that is looked at; empty: the one that is being made. */
  readonly shown: string;
  /** The digest of the record with which it is compared; empty: none. */
  readonly beside: string;
  readonly section: SectionId;
  readonly paper: Paper;
  /** What came of the last act. */
  readonly news: readonly string[];
}

export const FIRST: HandoverState = {
  job: '',
  isRead: false,
  visit: NO_VISIT,
  records: [],
  made: null,
  isMaking: false,
  isReading: false,
  shown: '',
  beside: '',
  section: 'open',
  paper: 'A4',
  news: [],
};

/** Of this tab: leaving the view loses nothing. */
export const handoverStore = createStore<HandoverState>(() => FIRST);

export const useHandover = <T>(select: (state: HandoverState) => T): T => useStore(handoverStore, select);

/** The record that is looked at: a closed one, or the one that is being made. */
export const shownRecord = ({ made, records, shown }: HandoverState): DigestedRecord | null =>
  shown === '' ? made : (records.find(({ digest }) => digest === shown) ?? made);
