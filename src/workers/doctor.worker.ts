/// <reference lib="webworker" />
import { diagnose } from '../core/doctor/diagnose';
import { framingOf } from '../core/modbus/framing';
import { indexSheet } from '../core/sheet/index-sheet';
import type { DoctorAnswer, DoctorQuestion } from '../link/doctor-protocol';

declare const self: DedicatedWorkerGlobalScope;

// Explaining junk tries many settings bit by bit, which takes longer than the page's thread may be held.
self.addEventListener('message', ({ data }: MessageEvent<DoctorQuestion>) => {
  const { number, entries, context, sheet, protocol } = data;
  const suspects = diagnose(entries, {
    ...context,
    index: sheet && indexSheet(sheet),
    framing: framingOf(protocol),
  });
  const answer: DoctorAnswer = { number, suspects };
  self.postMessage(answer);
});
