import { shippedSheets } from '../../../tests/harness/shipped';
import { shelfOf } from '../../core/sheet/shelf';
import { FIRST_STATE } from './bench-state';
import { UNKNOWN_STATION, type StationView } from './live-values';
import { telling } from './telling';
import { toldState } from './told-state';

const index = shelfOf(shippedSheets()).get('tern') ?? null;
const status = index?.byRole.get('status-word')?.cells ?? [];
const here = { ...FIRST_STATE, telling };

it.each<readonly [string, StationView]>([
  ['never asked', UNKNOWN_STATION],
  ['silent', { ...UNKNOWN_STATION, misses: 3 }],
  ['heard, its status not read', { ...UNKNOWN_STATION, lastAnswerUs: 5 }],
])('a drive of which no word is known (%s) is told the same with and without the part that tells words', (_, view) => {
  expect(toldState(FIRST_STATE, index, view)).toEqual(toldState(here, index, view));
  expect(toldState(FIRST_STATE, null, view)).toEqual(toldState(here, null, view));
});

it('a word that cannot be told yet is not passed over in silence', () => {
  const values = new Map(status.map((cell) => [cell, { word: 0x37, atUs: 5 }]));
  expect(values.size).toBe(1);
  const heard = { ...UNKNOWN_STATION, values, lastAnswerUs: 5 };
  for (const [view, said] of [
    [heard, 'it answers; '],
    [{ ...heard, misses: 3 }, 'no answer for 3 tries; '],
    [{ ...UNKNOWN_STATION, before: values }, 'not known now; '],
  ] as const) {
    const { text, stale } = toldState(FIRST_STATE, index, view);
    expect([text.startsWith(said), text.endsWith('cannot be told yet'), stale]).toEqual([true, true, true]);
    expect(toldState(here, index, view).text).not.toContain('cannot be told yet');
  }
});
