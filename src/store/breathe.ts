/** Ends the present task, so that whatever waits (an answer to a key, a message, a drawing) has its turn between two parts of long work. */
export const breathe = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));

/** Work of a page in many parts goes on in one task for so long. */
const BREATH_MS = 8;

/** To be awaited between the parts of a work: ends the present task only where it has taken its time, since each end of one costs some. */
export function breaths(): () => Promise<void> {
  let beganMs = performance.now();
  return async () => {
    if (performance.now() - beganMs < BREATH_MS) return;
    await breathe();
    beganMs = performance.now();
  };
}
