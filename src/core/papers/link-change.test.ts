import { ternIndex } from '../../../tests/harness/sheets';
import type { SerialSettings } from '../line/settings';
import type { Cell } from '../sheet/place';
import { identityOf, identityWarning } from '../drive/identity';
import { keypadCard } from './keypad-card';
import { linkChange } from './link-change';
import { compareRestart } from './restart';

const index = ternIndex();
const K1: SerialSettings = { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 };
const at = (number: string): Cell => index.byNumber.get(number)!.cells[0]!;
const seen = (words: Readonly<Record<string, number>>) => {
  const byCell = new Map(Object.entries(words).map(([number, word]) => [at(number), { word, atUs: 5 }]));
  return (cell: Cell) => byCell.get(cell);
};

describe('keypad card', () => {
  it('lists what must be set in order, as the display shows it, for this line and station', () => {
    const card = keypadCard(index, K1, 7, seen({}));
    expect(card.map(({ parameter, display }) => `${parameter?.number ?? '-'} ${display}`)).toEqual([
      '- ',
      '5.01 7',
      '5.02 r192',
      '5.03 8-E-1',
      '- ',
      '2.01 LInE',
      '2.02 LInE',
    ]);
    expect(card.map(({ check }) => check.kind)).toEqual([
      'by-hand',
      'unknown',
      'unknown',
      'unknown',
      'by-hand',
      'unknown',
      'unknown',
    ]);
  });

  it('is verified by what the link shows: met, or differs with what is there', () => {
    const card = keypadCard(index, K1, 3, seen({ '5.01': 3, '2.01': 0 }));
    expect(card[1]?.check).toEqual({ kind: 'met', text: expect.any(String) as string, atUs: 5 });
    expect(card[5]?.check).toMatchObject({ kind: 'differs', text: expect.stringContaining('keypad') as string });
  });

  it('a rate that the drive does not have leaves no value to set', () => {
    const card = keypadCard(index, { ...K1, rate: 115_200 }, 3, seen({}));
    expect(card[2]).toMatchObject({ want: null, display: '', check: { kind: 'by-hand' } });
  });
});

describe('identity', () => {
  const type = index.byRole.get('type-code')!;
  const firmware = index.byRole.get('firmware')!;

  it('unknown until it is read, and unknown is no warning', () => {
    const rows = identityOf(index, seen({}));
    expect(rows.every(({ verdict }) => verdict === 'unknown')).toBe(true);
    expect(identityWarning(rows)).toBe('');
  });

  it('a difference is a sentence with both values', () => {
    const rows = identityOf(index, seen({ [type.number]: type.default!, [firmware.number]: 199 }));
    expect(rows.filter(({ verdict }) => verdict === 'same').map(({ parameter }) => parameter.role)).toEqual([
      'type-code',
    ]);
    expect(identityWarning(rows)).toMatch(/firmware is 199.*written for 212/);
  });
});

describe('change of both ends', () => {
  it('drive first, kept, restart last; the way back is a break', () => {
    const change = linkChange(index, K1, { ...K1, rate: 38_400 });
    if (!change.ok) throw new Error(change.error);
    expect(change.value.writes.map(({ parameter, raw }) => `${parameter.role} ${raw}`)).toEqual([
      'bit-rate 9',
      'keep 1',
      'restart 1',
    ]);
    expect(change.value).toMatchObject({ restarts: true, breakMs: 250 });
  });

  it('one code for data bits, parity and stop bits', () => {
    const change = linkChange(index, K1, { ...K1, parity: 'N', stopBits: 2 });
    expect(change.ok && change.value.writes[0]).toMatchObject({ raw: 10, parameter: { role: 'character-form' } });
  });

  it.each<[Partial<SerialSettings>, string]>([
    [{}, 'both ends have now'],
    [{ rate: 115_200 }, 'the drive has no 115200: 4800, 9600'],
    [{ dataBits: 7 }, 'the drive has no 7E1'],
  ])('%o cannot be done, and why is said', (to, text) => {
    const change = linkChange(index, K1, { ...K1, ...to });
    expect(change.ok ? '' : change.error).toContain(text);
  });
});

describe('a restart that was asked for', () => {
  it('says what became active, what was lost and what changed', () => {
    const before = new Map([
      [at('5.02'), 9],
      [at('5.04'), 50],
      [at('2.01'), 2],
      [at('6.02'), 1],
      [at('11.02'), 50],
      // A temperature of the drive: it changes by itself.
      [at('31.09'), 41],
    ]);
    const after = new Map([
      [at('5.02'), 9],
      [at('5.04'), 32],
      [at('2.01'), 0],
      [at('6.02'), 9],
      [at('11.02'), 50],
      [at('31.09'), 43],
    ]);
    const rows = compareRestart(index, before, after, new Set([at('5.02'), at('5.04')]));
    expect(rows.map(({ parameter, kind }) => `${parameter.number} ${kind}`)).toEqual([
      '2.01 changed',
      '5.02 active',
      '5.04 lost',
    ]);
  });

  it('what was not read on both sides is not judged', () => {
    expect(compareRestart(index, new Map([[at('5.02'), 9]]), new Map(), new Set())).toEqual([]);
  });
});
