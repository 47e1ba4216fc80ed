'use client';

import { useCallback } from 'react';
import { useStore } from 'zustand';
import { saveFile } from '../../bench/workers/ask-file-worker';
import { useBench } from '../../bench/bench-context';
import { framesWorker } from '../../bench/workers/frames-worker';
import type { CapturePlan } from '../../core/capture/capture-plan';
import { createCaptureStore, type CaptureActions, type CaptureState, type CaptureStore } from './capture-store';

let ofThisPage: CaptureStore | null = null;

function captureStore(): CaptureStore {
  ofThisPage ??= createCaptureStore(framesWorker(), saveFile);
  return ofThisPage;
}

/** The capture of this page: what is open, and what can be done with it. */
export const useCapture = (): CaptureState & CaptureActions => useStore(captureStore());

/** The dialect of a sheet by its name, as it is when it is asked for. */
export function useDialectOf(): (sheet: string) => CapturePlan['dialect'] {
  const { state } = useBench();
  return useCallback((sheet: string) => state.getState().sheets.get(sheet)?.sheet.dialect, [state]);
}
