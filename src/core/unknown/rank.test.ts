import pipitSheet from '../../../sheets/pipit.json';
import { ascii, hex } from '../../../tests/harness/bytes';
import { rtu } from '../../../tests/harness/line';
import { exchangeOf } from '../../../tests/harness/streams';
import { checksum } from '../checksum/checksum';
import { CHECKSUM_NAMES } from '../checksum/catalogue';
import { concatBytes } from '../bytes/concat';
import { pick, seededRandom } from '../random/random';
import { loadSheet } from '../sheet/load-sheet';
import { rankUnknown } from './rank';
import { searchChecks } from './rank-checks';

const loaded = loadSheet(pipitSheet);
const dialects = loaded.ok && loaded.value.dialect ? [loaded.value.dialect] : [];
const first = (bytes: Uint8Array) => rankUnknown(bytes, dialects)[0];

it.each([
  ['Modbus RTU', rtu('03 03 0182 0004'), 'Modbus RTU'],
  ['a refusal', rtu('03 83 02'), 'Modbus RTU'],
  ['Modbus ASCII', ascii(':010300000001FB\r\n'), 'Modbus ASCII'],
  ['Modbus TCP', hex('0001 0000 0006 01 03 0000 0001'), 'Modbus TCP'],
  ['USS', hex('02 0E 04 12B0 0000 0000 0000 047E 0000 D0'), 'USS, station 4'],
  ['a line of a dialect', ascii('05.pos?~78\r'), 'dialect Pipit'],
  ['words', ascii('ready when you are\r\n'), 'plain text'],
])('%s comes first', (_, bytes, what) => {
  expect(first(bytes)?.what).toBe(what);
  expect(first(bytes)?.evidence.length).toBeGreaterThan(0);
});

it.each(CHECKSUM_NAMES)('%s is found behind bytes of no known protocol, in either order', (name) => {
  const body = hex('99 51 7A 10 42 C8 0F');
  const check = checksum(name, body.subarray(1)).bytes;
  const find = searchChecks(concatBytes(body, check, hex('0D'))).find(
    ({ algorithm, from }) => algorithm === name && from === 1,
  );
  expect(find).toMatchObject({ at: 7, form: 'binary' });
  if (check.length > 1)
    expect(
      searchChecks(concatBytes(body, check.slice().reverse())).some(
        ({ algorithm, form }) => algorithm === name && form === 'binary, swapped',
      ),
    ).toBe(true);
});

it('a check of 8 bits alone is said to show nothing', () => {
  const body = hex('99 51 7A 10 42 C8');
  const guess = rankUnknown(concatBytes(body, checksum('SUM-8', body).bytes)).find(({ what }) =>
    what.includes('SUM-8'),
  );
  expect(guess?.score).toBeLessThanOrEqual(10);
  expect(guess?.against[0]).toContain('alone it shows nothing');
});

it('a damaged frame is never told as sure', () => {
  const bytes = rtu('03 03 0182 0004');
  bytes[4] = 9;
  const guess = first(bytes);
  expect(guess?.score ?? 0).toBeLessThanOrEqual(35);
});

it('2,000 frames of a line come first as Modbus RTU; of 2,000 random strings hardly one scores like a frame', () => {
  const random = seededRandom(61);
  let right = 0;
  let wrong = 0;
  for (let i = 0; i < 1000; i++)
    for (const frame of exchangeOf(random)) if (first(frame)?.what === 'Modbus RTU') right++;
  for (let i = 0; i < 2000; i++) {
    const noise = Uint8Array.from({ length: 4 + pick(random, 20) }, () => pick(random, 256));
    if ((first(noise)?.score ?? 0) >= 60) wrong++;
  }
  expect(right).toBeGreaterThanOrEqual(1998);
  expect(wrong).toBeLessThanOrEqual(2);
});

it('nothing, too much, and two bytes', () => {
  expect(rankUnknown(new Uint8Array(0))).toEqual([]);
  expect(rankUnknown(new Uint8Array(601))).toEqual([]);
  expect(rankUnknown(hex('01 02'))).toEqual([]);
});
