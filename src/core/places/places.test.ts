import { shippedIndex } from '../../../tests/harness/sheets';
import { ascii, hex } from '../../../tests/harness/bytes';
import { rtu } from '../../../tests/harness/line';
import { bytesToHex } from '../bytes/hex';
import { sealDialect } from '../dialect/write';
import { RTU } from '../modbus/framing';
import type { ParameterRole } from '../sheet/parameter-section';
import { cellOf, registerCell, type Cell } from '../sheet/place';
import { readUss, sealUss } from '../uss/telegram';
import { commandLink } from './command-link';
import { registerLink } from './register-link';
import { neutralControlWord, ussLink } from './uss-link';

const unknown = (): undefined => undefined;
/** A line of Pipit with its check. */
const line = (body: string): Uint8Array => sealDialect(shippedIndex('pipit').sheet.dialect!, ascii(`${body}~00\r`));
const place = (sheet: string, role: ParameterRole) => shippedIndex(sheet).byRole.get(role)!;

describe('registers', () => {
  const link = registerLink(shippedIndex('wren'), RTU);

  it('one word is one write of its register', () => {
    expect(bytesToHex(link.write(7, place('wren', 'control-word'), 0x7f, unknown)!)).toBe('07060398007f49e7');
  });

  it('a value of 32 bits is one request, so that no half is taken alone, in the order of its drive', () => {
    const own = registerLink(shippedIndex('curlew'), RTU);
    const target = place('curlew', 'target-position');
    expect(bytesToHex(own.write(1, target, 0x0003_0001, unknown)!).slice(0, 22)).toBe('0110083500020400030001');
    const swapped = own.write(1, { ...target, order: 'CDAB' }, 0x0003_0001, unknown)!;
    expect(bytesToHex(swapped).slice(0, 22)).toBe('0110083500020400010003');
    expect(own.read(1, [target]).map((bytes) => bytesToHex(bytes).slice(0, 12))).toEqual(['010308350002']);
  });

  it('each table is read by its own function, and only what can be written is written', () => {
    const of = (table: 'coil' | 'discrete-input' | 'input-register') => ({
      ...place('wren', 'control-word'),
      place: { kind: 'register' as const, table, address: 5 },
    });
    const read = (table: Parameters<typeof of>[0]) => bytesToHex(link.read(7, [of(table)])[0]!).slice(0, 12);
    expect([read('coil'), read('discrete-input'), read('input-register')]).toEqual([
      '070100050001',
      '070200050001',
      '070400050001',
    ]);
    expect(bytesToHex(link.write(7, of('coil'), 1, unknown)!).slice(0, 12)).toBe('07050005ff00');
    expect(link.write(7, of('input-register'), 1, unknown)).toBeNull();
    expect(link.write(7, of('discrete-input'), 1, unknown)).toBeNull();
  });

  it('reads in as few requests as can be, and learns what they bring', () => {
    const roles = ['status-word', 'actual-speed', 'fault-code'] as const;
    const [request, ...more] = link.read(
      7,
      roles.map((role) => place('wren', role)),
    );
    expect(more).toEqual([]);
    // Registers 930 to 933: status, actual speed, mode, fault.
    const reply = RTU.encode({ unit: 7, fc: 3, values: [0x0237, 90, 2, 0] }, 'response');
    if (!reply.ok) throw new Error('not built');
    expect(link.learned(request!, reply.value)).toEqual([
      [registerCell(930), 0x0237],
      [registerCell(931), 90],
      [registerCell(932), 2],
      [registerCell(933), 0],
    ]);
    expect(link.writes(request!)).toBe(false);
  });

  it('learns nothing from a refusal', () => {
    const request = link.write(7, place('wren', 'control-word'), 6, unknown)!;
    const reply = RTU.encode({ unit: 7, fc: 6, exception: 4 }, 'response');
    expect(reply.ok && link.learned(request, reply.value)).toEqual([]);
    expect(link.writes(request)).toBe(true);
  });
});

describe('what a request changes', () => {
  const wren = registerLink(shippedIndex('wren'), RTU);
  const dunlin = ussLink(shippedIndex('dunlin'));
  const pipit = commandLink(shippedIndex('pipit').sheet.dialect!);
  const uss = (body: string) => sealUss(hex(body));
  const out = (word: number): Cell => cellOf({ kind: 'process', direction: 'out', word });
  const commandOf = (verb: string): Cell => {
    const found = shippedIndex('pipit').sheet.dialect!.commands.find((command) => command.verb === verb);
    return cellOf({ kind: 'command', command: found!.id });
  };

  it.each([
    ['one register', wren, rtu('07 06 0398 007F'), [[registerCell(920), 0x7f]]],
    [
      'two registers',
      wren,
      rtu('07 10 0398 0002 04 007F 0100'),
      [
        [registerCell(920), 0x7f],
        [registerCell(921), 0x100],
      ],
    ],
    ['a mask, with every bit that may be 1', wren, rtu('07 16 0398 FFF0 000F'), [[registerCell(920), 0xffff]]],
    ['a read', wren, rtu('07 03 0398 0002'), []],
    [
      'process data that the drive looks at',
      dunlin,
      uss('02 0E 04 0000 0000 0000 0000 047E 1000 00'),
      [
        [out(0), 0x047e],
        [out(1), 0x1000],
      ],
    ],
    ['process data that it does not look at', dunlin, uss('02 0E 04 0000 0000 0000 0000 0000 1000 00'), []],
    [
      'a parameter, with process data that count for nothing',
      dunlin,
      uss('02 0E 04 2078 0000 0000 0050 0000 0000 00'),
      [[cellOf({ kind: 'uss', number: 120 }), 80]],
    ],
    ['a parameter that is only read', dunlin, uss('02 0E 04 1078 0000 0000 0000 0000 0000 00'), []],
    ['a command’s value', pipit, line('05.mod=4'), [[commandOf('mod'), 4]]],
    ['a command that is only read', pipit, line('05.mod?'), []],
    ['an act, which has no value', pipit, line('05.rst!'), [[commandOf('rst'), 1]]],
  ])('%s', (_, link, request, written) => {
    expect(link.written(request)).toEqual(written);
    expect(link.writes(request)).toBe(written.length > 0);
  });
});

describe('USS', () => {
  const index = shippedIndex('dunlin');
  const link = ussLink(index);
  const pzd = (bytes: Uint8Array | null) => readUss(bytes!, 4).message?.pzd;

  it('a control word carries the reference that is known, and the other way round', () => {
    const known = (role: ParameterRole) => ({ 'speed-reference': 0x1000, 'control-word': 0x047f })[role as string];
    expect(pzd(link.write(4, place('dunlin', 'control-word'), 0x047e, known))).toEqual([0x047e, 0x1000]);
    expect(pzd(link.write(4, place('dunlin', 'speed-reference'), 0x0800, known))).toEqual([0x047f, 0x0800]);
    // With nothing known the word that goes along is one that the drive does not look at.
    expect(pzd(link.write(4, place('dunlin', 'speed-reference'), 0x0800, unknown))).toEqual([0, 0x0800]);
  });

  it('reading never carries a word that counts', () => {
    const reads = link.read(4, [place('dunlin', 'ramp-time'), place('dunlin', 'status-word')]);
    expect(reads.map((bytes) => pzd(bytes)![0])).toEqual(reads.map(() => neutralControlWord(index)));
    expect(reads.some((bytes) => link.writes(bytes))).toBe(false);
    expect(neutralControlWord(index) & 0x400).toBe(0);
  });

  it('learns process data and the parameter that was asked for, not an older answer', () => {
    const [request] = link.read(4, [place('dunlin', 'ramp-time')]);
    // AK 1, parameter 120, value 80; status 0237, actual 1000.
    const answer = sealUss(hex('02 0E 04 10 78 00 00 00 00 00 50 02 37 10 00 00'));
    expect(new Map(link.learned(request!, answer))).toEqual(
      new Map([
        [cellOf({ kind: 'process', direction: 'in', word: 0 }), 0x0237],
        [cellOf({ kind: 'process', direction: 'in', word: 1 }), 0x1000],
        [cellOf({ kind: 'uss', number: 120 }), 80],
      ]),
    );
    const older = sealUss(hex('02 0E 04 10 79 00 00 00 00 00 50 02 37 10 00 00'));
    expect(link.learned(request!, older).some(([cell]) => cell.startsWith('uss'))).toBe(false);
  });

  // Task 6 reads an element, 7 writes a word, 8 a double word of an array; its index in the high half of IND by this sheet (the published description, from memory).
  it('each element of an array is a value of its own, read, written and learned by its index', () => {
    expect(['140', '140.1', '140.2', '140.3'].map((number) => index.byNumber.get(number)?.name)).toEqual(
      [0, 1, 2, 3].map((element) => `fixed speeds [${element}]`),
    );
    expect(index.byNumber.has('140.4')).toBe(false);
    const third = index.byNumber.get('140.2')!;
    const [read] = link.read(4, [third]);
    expect(readUss(read!, 4).message).toMatchObject({ ak: 6, pnu: 140, ind: 0x0200 });
    const write = link.write(4, third, 900, unknown)!;
    expect(readUss(write, 4).message).toMatchObject({ ak: 7, pnu: 140, ind: 0x0200, pwe: [0, 900] });
    expect(link.written(write)).toEqual([[third.cells[0], 900]]);
    const answer = sealUss(hex('02 0E 04 40 8C 02 00 00 00 03 84 02 37 10 00 00'));
    expect(new Map(link.learned(read!, answer)).get(third.cells[0]!)).toBe(900);
  });

  // Tasks 11 to 14 store, 2, 3, 7 and 8 do not (the published description, from memory).
  it('a value is written into working memory, or kept at once; a request says which', () => {
    const of = (number: string) => index.byNumber.get(number)!;
    const ak = (bytes: Uint8Array | null) => readUss(bytes!, 4).message?.ak;
    const kept = ([number, words]: readonly [string, number[]]) => link.writeKept!(4, of(number), words);
    const cases = [
      ['120', [95]],
      ['211', [0xffff, 0xffd6]],
      ['140.1', [7]],
      ['220.2', [0, 7]],
    ] as const;
    expect(cases.map(([number, words]) => ak(kept([number, [...words]])))).toEqual([14, 13, 12, 11]);
    expect(cases.map(([number, words]) => ak(link.writeWords(4, of(number), words, unknown)))).toEqual([2, 3, 7, 8]);
    expect(cases.map(([number, words]) => link.keeps(kept([number, [...words]])!))).toEqual([true, true, true, true]);
    expect(link.keeps(link.writeWords(4, of('120'), [95], unknown)!)).toBe(false);
    expect(link.keeps(link.read(4, [of('120')])[0]!)).toBeNull();
    // A word of the process data is never stored.
    expect(link.writeKept!(4, place('dunlin', 'control-word'), [0x047e])).toBeNull();
  });
});

describe('command lines', () => {
  const index = shippedIndex('pipit');
  const link = commandLink(index.sheet.dialect!);
  const text = (bytes: Uint8Array) => new TextDecoder().decode(bytes);
  const bytes = (line: string) => new TextEncoder().encode(line);

  it('writes and reads by the sheet’s verbs', () => {
    expect(text(link.write(5, place('pipit', 'control-word'), 4, unknown)!)).toMatch(/^05\.mod=4~[0-9A-F]{2}\r$/);
    expect(link.read(5, [place('pipit', 'status-word')]).map(text)[0]).toMatch(/^05\.mot\?~[0-9A-F]{2}\r$/);
  });

  it('learns a confirmed write and a value, and negative numbers as 32 bits', () => {
    const write = link.write(5, place('pipit', 'control-word'), 4, unknown)!;
    const check = (line: string): string =>
      [...bytes(line)]
        .reduce((sum, byte) => sum ^ byte, 0)
        .toString(16)
        .toUpperCase()
        .padStart(2, '0');
    const said = (line: string) => bytes(`${line}~${check(line)}\r`);
    expect(link.learned(write, said('05.ok'))).toEqual([[place('pipit', 'control-word').cells[0], 4]]);
    expect(link.learned(write, said('05.no04'))).toEqual([]);
    const [read] = link.read(5, [place('pipit', 'actual-speed')]);
    expect(link.learned(read!, said('05.vel=-16'))).toEqual([[place('pipit', 'actual-speed').cells[0], 0xfffffff0]]);
  });
});
