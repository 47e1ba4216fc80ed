import type { Source } from './document';

/** Where a line is from, in words short enough for a column. */
export function sourceText(from: Source): string {
  switch (from.of) {
    case 'person':
      return 'typed';
    case 'job':
      return 'the job';
    case 'bench':
      return 'the bench';
    case 'sheet':
      return `sheet ${from.slug} ${from.revision}`;
    case 'exchange':
      return from.exchange === 0 ? `trace entry ${from.sequence}` : `exchange ${from.exchange}`;
    case 'set':
      return 'values as read';
    case 'writing':
      return 'as written';
    case 'run':
      return 'its run';
  }
}
