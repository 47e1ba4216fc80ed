import type { Suspect } from '../../core/doctor/diagnose';
import type { DoctorAnswer, DoctorQuestion } from '../../messages/doctor';

/** The doctor's worker: one question at a time, asked anew only when the answer is there. */
export interface Doctor {
  readonly isBusy: () => boolean;
  readonly ask: (question: Omit<DoctorQuestion, 'number'>) => void;
  readonly leave: () => void;
}

/** Starts the doctor’s worker; it is asked with what is known and tells its suspects. */
export function startDoctor(tell: (suspects: readonly Suspect[]) => void): Doctor {
  const worker = new Worker(new URL('../../workers/doctor.worker.ts', import.meta.url), {
    type: 'module',
    name: 'bujo doctor',
  });
  let asked = 0;
  let answered = 0;
  worker.addEventListener('message', ({ data }: MessageEvent<DoctorAnswer>) => {
    answered = data.number;
    tell(data.suspects);
  });
  return {
    isBusy: () => answered < asked,
    ask: (question) => worker.postMessage({ ...question, number: ++asked }),
    leave: () => worker.terminate(),
  };
}
