import fc from 'fast-check';
import curlew from '../../../sheets/curlew.json';
import tern from '../../../sheets/tern.json';
import format0 from '../../../tests/fixtures/sheet-format-0.json';
import curlew1 from '../../../tests/fixtures/sheet-format-1-curlew.json';
import dunlin1 from '../../../tests/fixtures/sheet-format-1-dunlin.json';
import { shippedIndex, ternIndex } from '../../../tests/harness/sheets';
import { rtu } from '../../../tests/harness/line';
import { SHEET_IDS, shippedSheet } from '../../cli/sheets';
import { addressOf } from '../registers/address';
import { readRtu } from '../modbus/rtu';
import { effectOf, mayTurn } from '../drive/request-effect';
import { motionCautions } from '../drive/motion-cautions';
import { meaningOf, wordText } from '../drive/describe';
import { objectionsTo } from '../drive/limits';
import { loadSheet } from './load-sheet';
import { sheetFile } from './sheet-file';
import { migrateSheet } from './migrate';
import { replySentence, requestSentence } from '../protocol/modbus-sentence';
import type { ParameterRole } from './parameter-section';

type Loose = Record<string, unknown>;
const copy = (): Loose => structuredClone(tern);
const faultsOf = (sheet: unknown): readonly string[] => {
  const loaded = loadSheet(sheet);
  return loaded.ok ? [] : loaded.error.map(({ path, text }) => `${path}: ${text}`);
};

describe('the index of a sheet', () => {
  it('lays the values of a drive out once, whatever its mode', () => {
    const drives = SHEET_IDS.map(shippedIndex).filter(({ modes }) => modes.size > 1);
    expect(drives.length).toBeGreaterThan(0);
    for (const { modes, parameters, byCell, byRole } of drives)
      for (const mode of modes.values()) {
        expect(mode.parameters).toBe(parameters);
        expect(mode.byCell).toBe(byCell);
        expect(mode.byRole).toBe(byRole);
      }
  });
});

describe('loading', () => {
  it('takes the shipped sheet', () => {
    expect(faultsOf(tern)).toEqual([]);
  });

  it('migrates format 0 and leaves the imported text as it was', () => {
    const before = JSON.stringify(format0);
    const loaded = loadSheet(format0);
    expect(loaded.ok && loaded.value).toMatchObject({
      format: 2,
      slug: 'grebe',
      revision: 1,
      name: 'Grebe',
      link: { serial: { rate: 9600, dataBits: 8, parity: 'N', stopBits: 2 }, station: 5 },
      parameters: [{ number: '101', name: 'reference' }],
      scalings: [{ id: 'speed' }],
    });
    expect(JSON.stringify(format0)).toBe(before);
  });

  it('names a newer format as such', () => {
    expect(faultsOf({ ...copy(), format: 3 })).toEqual([
      'format: format 3 is newer than this program, which reads up to 2',
    ]);
  });

  it.each<[string, (sheet: Loose) => void, string]>([
    ['an unknown key', (sheet) => (sheet.colour = 'red'), 'colour:'],
    [
      'a bit beyond the width',
      (sheet) => (((sheet.words as Loose).control as Loose).width = 8),
      'words.control.bits[5]: bit 9 does not exist',
    ],
    [
      'a bit twice',
      (sheet) => ((((sheet.words as Loose).status as Loose).bits as Loose[])[1]!.bit = 0),
      'words.status.bits[1]: bit 0 is described twice',
    ],
    [
      'a role twice',
      (sheet) => ((((sheet.words as Loose).control as Loose).bits as Loose[])[0]!.role = 'run'),
      'words.control.bits[2].role: two bits have the role run',
    ],
    [
      'a zero full scale',
      (sheet) => ((((sheet.scalings as Loose[])[0]!.chain as Loose).steps as Loose[])[0]!.value = '0'),
      'scalings[0].chain: the full scale in units is 0',
    ],
    [
      'a byte order of another length',
      (sheet) => ((((sheet.scalings as Loose[])[0]!.chain as Loose).word as Loose).order = 'CDAB'),
      'scalings[0].chain.word.order: the order CDAB is not one of 2 bytes',
    ],
    [
      'limits the wrong way round',
      (sheet) => ((sheet.parameters as Loose[])[9]!.min = 500),
      'parameters[9].min: the lowest value 500 is above the highest 120',
    ],
    [
      'a default outside',
      (sheet) => ((sheet.parameters as Loose[])[9]!.default = 121),
      'parameters[9].default: the default 121 is outside',
    ],
    [
      'a number that the rule cannot place',
      (sheet) => ((sheet.parameters as Loose[])[0]!.number = '1.64'),
      'parameters[0].number: the address rule makes no register',
    ],
    [
      'two parameters with one number',
      (sheet) => ((sheet.parameters as Loose[])[1]!.number = '1.01'),
      'parameters[1].number: parameter 1.01 is listed twice',
    ],
    [
      'a further way over another parameter’s register',
      (sheet) => {
        const reach = (address: number) => ({ kind: 'register', table: 'holding-register', address });
        (sheet.parameters as Loose[])[0]!.at = [reach(5000)];
        (sheet.parameters as Loose[])[1]!.at = [reach(5001), reach(5000)];
      },
      'parameters[1].number: its register 5000 belongs to another parameter',
    ],
    [
      'two ways of one value that lie over each other',
      (sheet) => {
        const reach = (address: number) => ({ kind: 'register', table: 'holding-register', address });
        Object.assign((sheet.parameters as Loose[])[0]!, { type: 'uint32', at: [reach(5000), reach(5001)] });
      },
      'parameters[0].at[1]: two of its ways lie over each other, at holding-register 5001',
    ],
    [
      'a scaling that is not there',
      (sheet) => ((sheet.scalings as Loose[])[0]!.id = 'other'),
      'there is no scaling speed',
    ],
    [
      'a scaling of more bits than a register has',
      (sheet) => (((sheet.scalings as Loose[])[0]!.chain as Loose).word = { bits: 32, signed: true }),
      'scaling speed makes 32 bits; this register holds 16',
    ],
    [
      'no address rule, so that no word has a place',
      (sheet) => delete sheet.addressRule,
      'commands.stop: nothing has the role',
    ],
    [
      'a stop without a control word',
      (sheet) => (sheet.parameters = (sheet.parameters as Loose[]).filter(({ role }) => role !== 'control-word')),
      'commands.stop: nothing has the role control-word',
    ],
    [
      'fields that lie over each other',
      (sheet) =>
        (((sheet.words as Loose).control as Loose).fields = [
          { from: 10, width: 3, name: 'preset', values: [] },
          { from: 12, width: 2, name: 'ramp', values: [{ value: 4, name: 'slow' }] },
        ]),
      'words.control.fields[1]: bit 12 of ramp is also preset',
    ],
    [
      'a field over a bit with a meaning',
      (sheet) =>
        (((sheet.words as Loose).control as Loose).fields = [{ from: 2, width: 2, name: 'preset', values: [] }]),
      'words.control.fields[0]: bit 2 of preset is also enable',
    ],
    [
      'a state that nothing leads to',
      (sheet) => ((sheet.profile as Loose).states as Loose[]).push({ id: 'lost', name: 'lost', ones: [3] }),
      'profile.states[8]: no word and no way of the drive’s own leads to state lost',
    ],
    [
      'a move to nowhere',
      (sheet) => (((sheet.profile as Loose).moves as Loose[])[0]!.to = 'away'),
      'profile.moves[0].to: there is no state away',
    ],
    [
      'a bit that is 1 and 0',
      (sheet) => (((sheet.profile as Loose).states as Loose[])[2]!.zeros = [0]),
      'profile.states[2]: bit 0 cannot be 1 and 0 at once',
    ],
  ])('names %s at its place', (_, spoil, expected) => {
    const sheet = copy();
    spoil(sheet);
    expect(faultsOf(sheet).join('\n')).toContain(expected);
  });

  it('names stored moves of which an entry, or the one that chooses, is not there', () => {
    const without = (number: string): Loose => ({
      ...structuredClone(curlew),
      parameters: curlew.parameters.filter((own) => own.number !== number),
    });
    expect(faultsOf(curlew)).toEqual([]);
    expect(faultsOf(without('120'))).toEqual(['axis.storedMoves.moves[0].to: there is no entry 120']);
    expect(faultsOf(without('110'))).toEqual([
      'axis.storedMoves: no entry has the role stored-move: nobody could say which one is started',
    ]);
  });

  it('never throws on anything that JSON can hold', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.jsonValue(),
          fc.dictionary(fc.constantFrom(...Object.keys(tern), 'id', 'params', 'serial'), fc.jsonValue()),
        ),
        fc.constantFrom(0, 1, 2, undefined),
        (value, format) => {
          const input =
            typeof value === 'object' && value !== null && !Array.isArray(value) ? { ...value, format } : value;
          migrateSheet(input);
          const loaded = loadSheet(input);
          if (!loaded.ok) expect(loaded.error.length).toBeGreaterThan(0);
        },
      ),
      { seed: 4, numRuns: 500 },
    );
  });
});

describe('addresses', () => {
  it.each([
    ['11.03', 707],
    ['1.01', 65],
    ['11.60', 764],
    ['6.02', 386],
  ])('parameter %s of Tern is register %i', (number, address) => {
    expect(ternIndex().byNumber.get(number)?.place).toEqual({ kind: 'register', table: 'holding-register', address });
  });

  it('shows the working', () => {
    expect(addressOf({ kind: 'group-index', factor: 64, offset: 0 }, '11.03')?.working).toBe(
      '11 × 64 + 3 = 707 = 0x02C3',
    );
    expect(addressOf({ kind: 'number', offset: -1 }, '709')?.working).toBe('709 − 1 = 708 = 0x02C4');
  });

  it.each(['9', '9.64', 'x', '', '9.3.1', '999.63'])('makes no register of “%s”', (number) => {
    expect(addressOf({ kind: 'group-index', factor: 64, offset: 2000 }, number)).toBeNull();
  });
});

describe('in words', () => {
  const index = ternIndex();
  const place = (number: string) => index.byNumber.get(number)!;
  const message = (hex: string, direction: 'request' | 'response') => readRtu(rtu(hex), direction).message!;

  it.each([
    ['11.03', 3909, '3909 = 17.498 Hz'],
    ['11.03', 0xf0bb, '−3909 = −17.498 Hz'],
    ['2.01', 2, '2 = network'],
    ['2.01', 9, '9'],
    ['5.04', 32, '32 = 3.2 s'],
    ['6.01', 0, '0 = no fault'],
    ['6.01', 21, '21 = fault 21, watchdog'],
    ['6.01', 99, '99 = fault 99, not in the sheet'],
    ['6.02', 0x2a0d, '0x2A0D · in remote, running forward'],
    ['11.01', 0x000d, '0x000D · run forward'],
    ['4.03', 4, '4'],
  ])('%s holding %i', (number, word, text) => {
    expect(wordText(index, place(number), word)).toBe(text);
  });

  it.each([
    ['03 06 02C3 0F45', 'write 11.03 speed reference ← 3909 = 17.498 Hz'],
    ['03 03 0182 0004', 'read 6.02 to 6.05 · status word, torque, motor current, actual speed'],
    ['03 03 0182 0001', 'read 6.02 status word'],
    ['03 03 0000 0001', 'read register 0'],
    ['03 03 0000 0003', 'read register 0 to register 2 · 3 registers'],
    ['03 03 0144 000C', 'read 5.04 to register 335 · watchdog time, watchdog action, restart, show itself and 8 more'],
  ])('request %s', (hex, sentence) => {
    expect(requestSentence(message(hex, 'request'), index)).toBe(sentence);
  });

  it('a reply takes its registers from its request', () => {
    const request = message('03 03 0182 0004', 'request');
    const reply = message('03 03 08 2A0D 0000 001C 0F43', 'response');
    expect(replySentence(reply, request, index)).toBe(
      'status word 0x2A0D · in remote, running forward · torque 0 = 0 % · motor current 28 = 2.8 A · actual speed 3907 = 17.489 Hz',
    );
    expect(replySentence(message('03 83 02', 'response'), request, index)).toContain('illegal data address');
  });

  it('a sheetless station still reads as numbers', () => {
    expect(requestSentence(message('03 06 02C3 0F45', 'request'), null)).toBe('write register 707 ← 3909');
  });

  it('meaning without a name has its unit', () => {
    expect(meaningOf(index, place('6.04'), 28)).toBe('2.8 A');
  });
});

describe('what a request does to a drive', () => {
  const index = ternIndex();
  it.each([
    ['03 06 02C1 000D', { control: 13 }, true],
    ['03 06 02C1 0004', { control: 4 }, false],
    ['03 06 02C3 0F45', { reference: 3909 }, false],
    ['03 10 02C1 0003 06 000D 0032 0F45', { control: 13, reference: 3909 }, true],
    ['03 10 02C0 0002 04 0000 000D', { control: 13 }, true],
    ['03 03 02C1 0001', {}, false],
  ])('%s', (hex, act, turns) => {
    expect(effectOf(readRtu(rtu(hex), 'request').message!, index)).toEqual(act);
    expect(mayTurn(act, index)).toBe(turns);
  });

  const known = (values: Partial<Record<ParameterRole, number>>) => (role: ParameterRole) => values[role];

  it('says that zero reference is not standstill', () => {
    const { warnings } = motionCautions({ control: 0x000d }, index, known({ 'speed-reference': 0 }));
    expect(warnings).toEqual([
      'This word asks the shaft to turn: the reference is 0 Hz, the minimum speed 3.599 Hz. Zero reference is not standstill.',
    ]);
  });

  it('says when the drive will confirm and not act', () => {
    const { warnings } = motionCautions(
      { control: 0x000d },
      index,
      known({ 'command-source': 0, 'reference-source': 2, selector: 1 }),
    );
    expect(warnings[1]).toBe('2.01 command source is keypad, so the drive will confirm this and not act on it.');
    expect(warnings).toHaveLength(2);
  });

  it('does not show the unknown as known', () => {
    expect(motionCautions({ control: 0x000d }, index, known({})).warnings[0]).toContain('the reference is not known');
  });

  it('warns of nothing for a word that does not turn, and of contradictions in any', () => {
    expect(motionCautions({ control: 0x0004 }, index, known({})).warnings).toEqual([]);
    expect(motionCautions({ control: 0x0048 }, index, known({})).contradictions).toHaveLength(1);
  });
});

describe('limits are named before sending', () => {
  const index = ternIndex();
  const against = (hex: string, turning: boolean | null = false) =>
    objectionsTo(readRtu(rtu(hex), 'request').message!, index, turning).map(({ text }) => text);

  it.each([
    ['03 06 0144 0258', []],
    [
      '03 06 0144 0259',
      ['5.04 watchdog time takes 0 to 60 s, not 60.1 s; the drive refuses it with exception 3, illegal data value.'],
    ],
    [
      '03 06 0081 0003',
      [
        '2.01 command source takes 0 keypad, 1 terminals, 2 network, not 3; the drive refuses it with exception 3, illegal data value.',
      ],
    ],
    [
      '03 06 0182 0000',
      ['6.02 status word can only be read; the drive refuses it with exception 2, illegal data address.'],
    ],
    ['03 06 0000 0001', ['Register 0 is not in the sheet.']],
    [
      '03 06 02C3 3000',
      [
        '11.03 speed reference takes −55 to 55 Hz, not 55.004 Hz; the drive refuses it with exception 3, illegal data value.',
      ],
    ],
    [
      '03 06 0141 0009',
      [
        '5.01 station takes effect after the drive was off and on again, and only if it was kept before by 11.60 keep settings.',
      ],
    ],
    ['03 03 0182 0004', []],
    [
      '03 03 0186 0003',
      ['2 of these registers, from 391 on, are not in the sheet; a drive that misses one may refuse the whole read.'],
    ],
    [
      '03 03 0000 0004',
      ['4 of these registers, from 0 on, are not in the sheet; a drive that misses one may refuse the whole read.'],
    ],
  ])('%s', (hex, sentences) => {
    expect(against(hex)).toEqual(sentences);
  });

  it('tells the exception that must come, and none where none must', () => {
    const refusal = (hex: string, turning: boolean | null) =>
      objectionsTo(readRtu(rtu(hex), 'request').message!, index, turning).map((objection) => objection.refusal);
    expect([
      refusal('03 06 0144 0259', false),
      refusal('03 06 0182 0000', null),
      refusal('03 06 0081 0002', true),
    ]).toEqual([[3], [2], [4]]);
    expect([
      refusal('03 06 0081 0002', null),
      refusal('03 06 0141 0009', false),
      refusal('03 03 0000 0004', false),
    ]).toEqual([[null], [null], [null]]);
  });

  it('standstill is asked for, and unknown is not taken for standing', () => {
    expect(against('03 06 0081 0002', true)).toEqual([
      '2.01 command source can be written at standstill only, and the shaft turns; the drive refuses it with exception 4, server device failure.',
    ]);
    expect(against('03 06 0081 0002', null)).toEqual([
      '2.01 command source can be written at standstill only; whether the shaft stands is not known.',
    ]);
    expect(against('03 06 0081 0002', false)).toEqual([]);
  });
});

it.each(SHEET_IDS)('%s as a file reads back as it was', (id) => {
  const sheet = shippedSheet(id)!;
  const again = loadSheet(JSON.parse(JSON.stringify(sheetFile(sheet))));
  expect(again).toEqual({ ok: true, value: sheet });
});

describe('format 1', () => {
  it.each([
    ['curlew', curlew1],
    ['dunlin', dunlin1],
  ])('%s comes to what ships today', (id, old) => {
    const read = loadSheet(old);
    if (!read.ok) throw new Error(read.error[0]?.text);
    const now = shippedIndex(id).sheet;
    // The tail of the dictionary and the axis are newer than format 1: their entries, scales, mode, cause of a fault and names.
    const { parameters: before = [], scalings, profile, axis, faults, revision, summary, ...same } = read.value;
    expect(now).toMatchObject(same);
    // What ships today may be a later revision, which says in its summary what is new.
    expect([now.revision >= revision, now.summary.startsWith(summary.slice(0, 20))]).toEqual([true, true]);
    expect(axis).toBeUndefined();
    expect(now.scalings).toEqual(expect.arrayContaining(scalings ?? []));
    expect(now.profile?.kind).toBe(profile?.kind);
    // A sheet may have got more since.
    expect(now.faults?.map(({ code }) => code)).toEqual(expect.arrayContaining((faults ?? []).map(({ code }) => code)));
    for (const { number, type, at, role } of before)
      expect(now.parameters?.find((one) => one.number === number)).toMatchObject(
        JSON.parse(JSON.stringify({ number, type, at, role })) as object,
      );
  });

  it('two halves of a position become one value, the other way round too', () => {
    const half = (number: string, role: string, byDefault: number) => ({
      number,
      name: `target, ${role.slice(7)} half`,
      role,
      type: 'uint16',
      min: 0,
      max: 65535,
      default: byDefault,
      write: 'always',
    });
    const sheet = (parameters: readonly object[]) => ({
      format: 1,
      slug: 'mine',
      revision: 1,
      name: 'Mine',
      summary: 'a test',
      addressRule: { kind: 'number', offset: 0 },
      parameters,
    });
    const swapped = loadSheet(sheet([half('8', 'target-low', 3), half('9', 'target-high', 65535)]));
    expect(swapped.ok && swapped.value.parameters).toEqual([
      expect.objectContaining({
        number: '8',
        name: 'target',
        role: 'target-position',
        type: 'int32',
        order: 'CDAB',
        default: -65533,
      }),
    ]);
    const apart = loadSheet(
      sheet(
        [half('8', 'target-low', 0), half('10', 'target-high', 0)].flatMap((one, i) =>
          i === 0 ? [one, { ...one, number: '9', role: 'torque', name: 'torque' }] : [one],
        ),
      ),
    );
    expect(apart.ok && apart.value.parameters?.map(({ number, role }) => [number, role])).toEqual([
      ['8', undefined],
      ['9', 'torque'],
      ['10', undefined],
    ]);
  });
});
