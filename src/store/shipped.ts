import type { Job } from '../core/job/job';
import type { Sheet } from '../core/sheet/sheet';

/** Where the local server gives what ships. */
const PLACE = '/shipped';

/** A longer answer is no sentence but a page. */
const LONGEST_WHY = 400;

/** Sheets that come with the program, read-only (an edit makes a copy), and the demo job. */
export interface Shipped {
  readonly sheets: readonly Sheet[];
  /** Sheets that only stand-ins know. */
  readonly unlisted: readonly Sheet[];
  readonly demo: Job;
}

/** The program's own server has read it whole (`read-shipped.ts`); here it is only told from an answer of something else. */
const isShipped = (answer: unknown): answer is Shipped =>
  typeof answer === 'object' &&
  answer !== null &&
  'sheets' in answer &&
  'unlisted' in answer &&
  'demo' in answer &&
  Array.isArray(answer.sheets) &&
  Array.isArray(answer.unlisted);

/** Asks the local server. Rejects with a sentence where it does not answer, or another one does. */
export async function fetchShipped(): Promise<Shipped> {
  const answer = await fetch(PLACE);
  if (!answer.ok) {
    const why = (await answer.text()).slice(0, LONGEST_WHY);
    throw new Error(`the local server has no sheets: it answers ${answer.status}${why === '' ? '' : `, ${why}`}`);
  }
  const shipped: unknown = await answer.json();
  if (!isShipped(shipped)) throw new Error('the local server has no sheets: what it gives is something else');
  return shipped;
}
