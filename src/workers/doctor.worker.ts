/// <reference lib="webworker" />
import { diagnose } from '../core/doctor/diagnose';
import { protocolOf } from '../core/protocol/choose';
import { indexSheet } from '../core/sheet/index-sheet';
import type { DoctorAnswer, DoctorQuestion } from '../messages/doctor';

declare const self: DedicatedWorkerGlobalScope;

// Explaining junk tries many settings bit by bit, which takes longer than the page's thread may be held.
self.addEventListener('message', ({ data }: MessageEvent<DoctorQuestion>) => {
  const { number, entries, context, sheet, protocol } = data;
  const index = sheet && indexSheet(sheet);
  const suspects = diagnose(entries, { ...context, index, protocol: protocolOf(protocol, [index]) });
  const answer: DoctorAnswer = { number, suspects };
  self.postMessage(answer);
});
