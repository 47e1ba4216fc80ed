import { readFileSync } from 'node:fs';
import path from 'node:path';
import { seededRandom, pick } from '../core/random/random';
import { scriptLine } from './script/script-verb';
import { answer, helpText, VERBS } from './verbs';

interface Told {
  readonly ok: boolean;
  readonly [key: string]: unknown;
}

const ask = (verb: string, line: unknown): Told =>
  JSON.parse(answer(VERBS[verb]!, typeof line === 'string' ? line : JSON.stringify(line))) as Told;

describe('decode', () => {
  it('tells a frame by the contract’s names', () => {
    expect(
      ask('decode', { id: 7, protocol: 'modbus-rtu', hex: '11 03 06 02 2B 00 00 00 64 C8 BA', direction: 'response' }),
    ).toMatchObject({
      ok: true,
      id: 7,
      direction: 'response',
      message: { unit: 17, fc: 3, values: [555, 0, 100] },
      faults: [],
    });
  });

  it('gives both readings of an echo', () => {
    const told = ask('decode', { protocol: 'modbus-rtu', hex: '030602c3 0f45 bdaf' });
    const message = { unit: 3, fc: 6, address: 707, values: [3909] };
    expect(told).toMatchObject({
      direction: 'either',
      readings: [
        { direction: 'request', message },
        { direction: 'response', message },
      ],
    });
  });

  it('is ok with a faulty frame and names the fault', () => {
    expect(ask('decode', { protocol: 'modbus-rtu', hex: '0306 02C3 0f45 bc48', direction: 'request' })).toMatchObject({
      ok: true,
      message: { unit: 3, fc: 6, address: 707, values: [3909] },
      faults: [{ code: 'checksum-mismatch', start: 6, end: 8 }],
    });
  });

  // Modbus Messaging on TCP/IP V1.0b, 4.4.2.2.
  it('reads and builds Modbus TCP', () => {
    const hex = '150100000006ff0300040001';
    const message = { transactionId: 0x1501, unit: 255, fc: 3, address: 4, quantity: 1 };
    expect(ask('decode', { protocol: 'modbus-tcp', hex, direction: 'request' })).toMatchObject({ message, faults: [] });
    expect(ask('encode', { protocol: 'modbus-tcp', direction: 'request', message })).toMatchObject({ hex });
    expect(ask('decode', { protocol: 'modbus-tcp', hex: '150100070006ff0300040001' })).toMatchObject({
      faults: [{ code: 'wrong-protocol-id', start: 2, end: 4 }],
    });
  });

  it('has null for nothing at all', () => {
    expect(ask('decode', { protocol: 'modbus-rtu', hex: '' })).toMatchObject({
      ok: true,
      message: null,
      faults: [{ code: 'too-short' }],
      fields: [],
    });
  });

  it.each([
    ['no json', '{', 'bad-json'],
    ['a blank line', '', 'bad-json'],
    ['odd hex', { protocol: 'modbus-rtu', hex: '030' }, 'odd-hex-digits'],
    ['bad hex', { protocol: 'modbus-rtu', hex: '0g' }, 'bad-hex-digit'],
    ['an unknown field', { protocol: 'modbus-rtu', hex: '00', colour: 1 }, 'unknown-field'],
    ['a wrong type', { protocol: 'modbus-rtu', hex: 3 }, 'bad-field'],
    ['a protocol that does not exist', { protocol: 'smoke-signals', hex: '00' }, 'unsupported-protocol'],
    ['an array', [], 'bad-field'],
  ])('refuses %s', (_, line, code) => {
    expect(ask('decode', line)).toMatchObject({ ok: false, error: { code } });
  });
});

describe('encode', () => {
  it.each([
    [{ unit: 3, fc: 6, address: 707, values: [3909] }, 'request', '030602c30f45bdaf'],
    [{ unit: 17, fc: 3, address: 107, quantity: 3 }, 'request', '1103006b00037687'],
    [{ unit: 3, fc: 3, exception: 2 }, 'response', '0383026131'],
  ])('%j', (message, direction, hex) => {
    expect(ask('encode', { protocol: 'modbus-rtu', direction, message })).toEqual({ ok: true, hex });
  });

  it('refuses what the standard does not allow', () => {
    expect(
      ask('encode', {
        protocol: 'modbus-rtu',
        direction: 'request',
        message: { unit: 1, fc: 3, address: 0, quantity: 126 },
      }),
    ).toMatchObject({
      ok: false,
      error: { code: 'quantity-out-of-range' },
    });
  });
});

it('checksum gives value and wire order', () => {
  expect(ask('checksum', { algorithm: 'CRC-16/MODBUS', hex: '313233343536373839' })).toEqual({
    ok: true,
    value: 0x4b37,
    hex: '374b',
  });
  expect(ask('checksum', { algorithm: 'CRC-16/OTHER', hex: '' })).toMatchObject({ ok: false });
});

describe('scale', () => {
  const short = { unitFullScale: 55, rawFullScale: '12287', bits: 16, signed: false, rounding: 'down' };

  it('value to raw', () => {
    expect(ask('scale', { ...short, value: '17.5' })).toMatchObject({
      ok: true,
      raw: 3909,
      hex: '0f45',
      exact: '7819/2',
      error: '-1/2',
      value: '19545/1117',
      faults: [],
    });
  });

  it('raw to value', () => {
    expect(ask('scale', { ...short, unitFullScale: '100', rawFullScale: 16384, raw: 8192 })).toMatchObject({
      raw: 8192,
      hex: '2000',
      value: '50',
    });
  });

  it('reads a pattern as the signed number that it is', () => {
    expect(
      ask('scale', { ...short, signed: true, rawFullScale: 16384, unitFullScale: 100, raw: 0xc000 }),
    ).toMatchObject({ raw: -16384, value: '-100' });
  });

  it.each([
    ['both', { ...short, value: '1', raw: 1 }, 'missing-field'],
    ['neither', short, 'missing-field'],
    ['a full scale of 0', { ...short, unitFullScale: 0, value: '1' }, 'value-out-of-range'],
    ['no number', { ...short, value: 'fast' }, 'bad-number'],
  ])('refuses %s', (_, line, code) => {
    expect(ask('scale', line)).toMatchObject({ ok: false, error: { code } });
  });

  it('takes the chain of a sheet', () => {
    const chain = {
      unit: 'Hz',
      steps: [{ kind: 'full-scale', value: '55', raw: '12287' }],
      rounding: 'down',
      word: { bits: 16, signed: true },
    };
    expect(ask('scale', { chain, value: '17.5' })).toMatchObject({ raw: 3909, hex: '0f45' });
  });
});

describe('lines', () => {
  const form = { dataBits: 8, parity: 'E', stopBits: 1 };

  // Modbus over Serial Line V1.02, 2.5.1.1.
  it.each([
    [9600, 1145.833, 1718.75, 4010.417],
    [19200, 572.917, 859.375, 2005.208],
    [38400, 286.458, 750, 1750],
    [115200, 95.486, 750, 1750],
  ])('timing at %i bit/s', (rate, characterUs, t15Us, t35Us) => {
    const told = ask('timing', { ...form, rate, bytes: 8 });
    expect(told.characterUs).toBeCloseTo(characterUs, 3);
    expect(told.t15Us).toBeCloseTo(t15Us, 3);
    expect(told.t35Us).toBeCloseTo(t35Us, 3);
    expect(told.frameUs).toBeCloseTo(8 * characterUs, 2);
  });

  it('uart takes fractions of a rate and has the contract’s defaults', () => {
    const ends = { sender: { ...form, baud: 9600 }, receiver: { ...form, baud: '96001/10' } };
    expect(ask('uart', { ...ends, hex: '03' })).toEqual({
      ok: true,
      bytes: [{ byte: 3, frameError: false, parityError: false, startUs: 2083.333333 }],
      falseStarts: 0,
      breaks: 0,
    });
  });

  it('ipv4 by prefix or mask', () => {
    const facts = {
      network: '172.22.7.0',
      broadcast: '172.22.7.255',
      usableHosts: 254,
      rfc1918: true,
      linkLocal: false,
    };
    expect(ask('ipv4', { address: '172.22.7.37', prefix: 24, other: '172.22.8.2' })).toMatchObject({
      ...facts,
      sameSubnet: false,
    });
    expect(ask('ipv4', { address: '172.22.7.37', mask: '255.255.255.0', other: '172.22.7.2' })).toMatchObject({
      ...facts,
      sameSubnet: true,
    });
  });

  it.each([
    ['timing', { ...form, rate: 0, bytes: 1 }, 'bad-field'],
    ['timing', { ...form, rate: 9600, bytes: -1 }, 'bad-field'],
    ['uart', { sender: { ...form, baud: 0 }, receiver: { ...form, baud: 1 }, hex: '00' }, 'value-out-of-range'],
    ['uart', { sender: { ...form, baud: 'fast' }, receiver: { ...form, baud: 1 }, hex: '00' }, 'bad-token'],
    ['ipv4', { address: '300.1.2.3', prefix: 24 }, 'value-out-of-range'],
    ['ipv4', { address: '10.0.0.1', prefix: 33 }, 'value-out-of-range'],
    ['ipv4', { address: '10.0.0.1' }, 'missing-field'],
  ])('%s refuses %j', (verb, line, code) => {
    expect(ask(verb, line)).toMatchObject({ ok: false, error: { code } });
  });
});

it('every example in the help is understood', () => {
  for (const [name, { example }] of Object.entries(VERBS)) {
    expect(ask(name, example).ok).toBe(true);
    expect(helpText()).toContain(example);
  }
});

it('no line of junk throws', () => {
  const random = seededRandom(5);
  for (let i = 0; i < 3000; i++) {
    const hex = Array.from({ length: pick(random, 40) }, () => '0123456789abcdefg '[pick(random, 18)]).join('');
    for (const name of Object.keys(VERBS))
      ask(name, { protocol: 'modbus-rtu', hex, algorithm: 'LRC', value: hex, unitFullScale: hex, rawFullScale: 1 });
  }
});

describe('all protocols', () => {
  it.each<[string, object, object]>([
    [
      'coils, as many as were asked for',
      { protocol: 'modbus-rtu', hex: '110103cd6b054012', requestQuantity: 19 },
      { message: { coils: [1, 0, 1, 1, 0, 0, 1, 1, 1, 1, 0, 1, 0, 1, 1, 0, 1, 0, 1] } },
    ],
    [
      'ASCII: offsets count characters',
      { protocol: 'modbus-ascii', hex: '3a3031303330303030303030314643 0d0a', direction: 'request' },
      { faults: [{ code: 'checksum-mismatch', start: 13, end: 15 }] },
    ],
    [
      'USS, either way',
      { protocol: 'uss', hex: '020e0412b0000000000000047e0000d0' },
      {
        direction: 'either',
        message: { ak: 1, pnu: 688, pkwWords: 4, pzd: [1150, 0] },
        readings: [{ direction: 'request' }, { direction: 'response' }],
      },
    ],
    [
      'a dialect',
      { protocol: 'pipit', hex: '30352e706f733d2d35373334347e36360d' },
      { direction: 'response', message: { station: 5, kind: 'value', command: 'position', values: [-57344] } },
    ],
  ])('decode %s', (_, line, told) => {
    expect(ask('decode', line)).toMatchObject({ ok: true, ...told });
  });

  it('without requestQuantity all bits of the bytes come back', () => {
    const coils = [0xcd, 0x6b, 0x05].flatMap((byte) => Array.from({ length: 8 }, (_, bit) => (byte >> bit) & 1));
    expect(ask('decode', { protocol: 'modbus-rtu', hex: '110103cd6b054012' })).toMatchObject({ message: { coils } });
  });

  it('pkwWords 0 makes all net data process data', () => {
    expect(ask('decode', { protocol: 'uss', hex: '020e0412b0000000000000047e0000d0', pkwWords: 0 })).toMatchObject({
      message: { pkwWords: 0, pzd: [0x12b0, 0, 0, 0, 1150, 0] },
    });
  });

  it.each<[string, object, string]>([
    [
      'a server’s identity',
      { protocol: 'modbus-rtu', direction: 'response', message: { unit: 1, fc: 17, serverIdHex: '2a', running: true } },
      '0111022affe21c',
    ],
    [
      'ASCII',
      { protocol: 'modbus-ascii', direction: 'request', message: { unit: 1, fc: 3, address: 0, quantity: 1 } },
      '3a3031303330303030303030314642' + '0d0a',
    ],
    [
      'USS',
      { protocol: 'uss', direction: 'request', message: { address: 4, ak: 1, pnu: 688, pzd: [1150, 0] } },
      '020e0412b0000000000000047e0000d0',
    ],
    [
      'a dialect',
      {
        protocol: 'siskin',
        direction: 'request',
        message: { station: 2, kind: 'write', command: 'reference', values: [-1000] },
      },
      '0230324852464331380331' + '37',
    ],
  ])('encode %s', (_, line, hex) => {
    expect(ask('encode', line)).toEqual({ ok: true, hex });
  });

  it('what the form does not have is named', () => {
    expect(ask('encode', { protocol: 'uss', direction: 'request', message: { address: 4, unit: 1 } })).toMatchObject({
      ok: false,
      error: { code: 'unknown-field' },
    });
    expect(ask('encode', { protocol: 'uss', direction: 'request', message: { address: 40 } })).toMatchObject({
      ok: false,
      error: { code: 'value-out-of-range' },
    });
  });
});

describe('split', () => {
  it('leaves out what belongs to no frame, and tells offsets in the stream', () => {
    expect(ask('split', { protocol: 'modbus-rtu', hex: 'ff 030301820004e43f 0383026131 00' })).toEqual({
      ok: true,
      frames: [
        { offset: 1, length: 8, direction: 'request', fc: 3, unit: 3 },
        { offset: 9, length: 5, direction: 'response', fc: 3, unit: 3 },
      ],
    });
  });

  it('knows USS and dialects', () => {
    expect(ask('split', { protocol: 'uss', hex: '020603047e00007d0206030231000034' })).toMatchObject({
      frames: [
        { offset: 0, length: 8, unit: 3 },
        { offset: 8, direction: 'response' },
      ],
    });
    expect(ask('split', { protocol: 'linnet', hex: '7261746520350d0a646f6e650d0a' })).toMatchObject({
      frames: [{ direction: 'request' }, { direction: 'response' }],
    });
  });
});

describe('scale by a chain', () => {
  const chain = {
    unit: 'mm/s',
    steps: [
      { kind: 'limit', min: '-100', max: '100' },
      { kind: 'lead', perTurn: '8' },
      { kind: 'gear', motor: '7', load: '2' },
      { kind: 'counts-per-turn', counts: '131072' },
    ],
    rounding: 'halfEven',
    word: { bits: 32, signed: true, form: 'sign-magnitude' },
  };

  it('runs every step, shows each sum, and names a cut', () => {
    expect(ask('scale', { chain, value: '-200' })).toMatchObject({
      ok: true,
      raw: -5734400,
      hex: '80578000',
      value: '-100',
      exact: '-5734400',
      working: [
        '−200 is cut to −100',
        '−100 / 8 a turn = −12.5',
        '−12.5 × 7 / 2 = −43.75',
        '−43.75 turns × 131072 = −5734400',
        '-5734400, nothing to round',
        '-5734400 as 32-bit sign and magnitude = 0x80578000',
      ],
      faults: [{ code: 'clipped' }],
    });
  });

  it('names a raw number that the chain never sends', () => {
    expect(ask('scale', { chain, raw: 6_000_000 })).toMatchObject({ faults: [{ code: 'not-canonical' }] });
    expect(ask('scale', { chain, raw: 5_734_400 })).toMatchObject({ value: '100', faults: [] });
  });

  it.each<[string, object, string]>([
    ['a step that is none', { chain: { ...chain, steps: [{ kind: 'twist' }] }, value: 1 }, 'bad-field'],
    ['a lead of 0', { chain: { ...chain, steps: [{ kind: 'lead', perTurn: '0' }] }, value: 1 }, 'value-out-of-range'],
  ])('refuses %s', (_, line, code) => {
    expect(ask('scale', line)).toMatchObject({ ok: false, error: { code } });
  });
});

describe('state and route', () => {
  it.each<[object, readonly string[]]>([
    [{ profile: 'cia402', status: 0x0237 }, ['operation-enabled']],
    [{ profile: 'cia402', status: '0x0250' }, ['switch-on-disabled']],
    [{ profile: 'cia402', status: 0x0001 }, []],
    [{ profile: 'profidrive', status: '0233' }, ['S3', 'S5']],
    [{ profile: 'tern', status: 0x2a0d }, ['running-forward']],
    [{ profile: 'pipit', status: 0x4000 }, ['fault']],
  ])('%j', (line, states) => {
    expect(ask('state', line)).toMatchObject({ ok: true, states });
  });

  it('names every bit with its level', () => {
    const told = ask('state', { profile: 'cia402', mode: 'profile-position', status: 0x1237 });
    expect((told.bits as { name: string; value: number }[])[12]).toEqual({
      bit: 12,
      name: 'set-point acknowledged',
      value: 1,
    });
  });

  it('gives words, their edges and the states expected', () => {
    expect(ask('route', { profile: 'cia402', status: 0x0238, target: 'operation-enabled', last: 0x000f })).toEqual({
      ok: true,
      steps: [
        { word: 0x80, raises: [7], drops: [0, 1, 2, 3], expects: ['switch-on-disabled'], turns: false },
        { word: 0x06, raises: [1, 2], drops: [7], expects: ['ready-to-switch-on'], turns: false },
        { word: 0x07, raises: [0], drops: [], expects: ['switched-on'], turns: false },
        { word: 0x0f, raises: [3], drops: [], expects: ['operation-enabled'], turns: false },
      ],
    });
    expect(ask('route', { profile: 'profidrive', status: '0x0231', target: 'S4' })).toMatchObject({
      steps: [{ word: 0x47f, expects: ['S4'], turns: true }],
    });
  });

  it.each<[string, string, object, string]>([
    ['a profile that is not there', 'state', { profile: 'cia403', status: 0 }, 'unknown-profile'],
    ['a sheet without states', 'state', { profile: 'siskin', status: 0 }, 'unknown-profile'],
    ['a word too wide', 'state', { profile: 'cia402', status: 0x10000 }, 'value-out-of-range'],
    ['a state that nobody commands', 'route', { profile: 'cia402', status: 0, target: 'fault' }, 'unknown-target'],
    ['a status that is no word', 'state', { profile: 'cia402', status: 'ready' }, 'bad-field'],
  ])('refuses %s', (_, verb, line, code) => {
    expect(ask(verb, line)).toMatchObject({ ok: false, error: { code } });
  });
});

describe('number', () => {
  it.each<[object, object]>([
    [
      { type: 'float32', order: 'CDAB', value: '17.5' },
      { ok: true, value: '17.5', short: '17.5', hex: '0000418c', registers: [0, 0x418c] },
    ],
    [
      { type: 'int16', value: -2 },
      { ok: true, value: '-2', hex: 'fffe', registers: [0xfffe] },
    ],
    [
      { type: 'uint64', order: 'HGFEDCBA', hex: '0807060504030201' },
      { ok: true, value: '72623859790382856', hex: '0807060504030201', registers: [0x807, 0x605, 0x403, 0x201] },
    ],
  ])('%j', (line, told) => {
    expect(ask('number', line)).toEqual(told);
  });

  it.each<[string, object, string]>([
    ['both value and hex', { type: 'int16', value: '1', hex: '0001' }, 'bad-field'],
    ['a number that does not fit', { type: 'int16', value: '40000' }, 'value-out-of-range'],
    ['an order of another size', { type: 'int16', order: 'ABCD', value: '1' }, 'value-out-of-range'],
    ['a wrong number of bytes', { type: 'int32', hex: '0001' }, 'value-out-of-range'],
  ])('refuses %s', (_, line, code) => {
    expect(ask('number', line)).toMatchObject({ ok: false, error: { code } });
  });
});

describe('address and notations', () => {
  it('a reference goes before the plain number of the same digits', () => {
    expect(ask('address', { text: '40108' })).toEqual({
      ok: true,
      readings: [
        { table: 'holding-register', address: 107, form: 'reference-5' },
        { table: null, address: 40108, form: 'from-0' },
        { table: null, address: 40107, form: 'from-1' },
      ],
    });
    expect(ask('address', { text: '400001', table: 'coil' })).toMatchObject({
      ok: false,
      error: { code: 'bad-token' },
    });
  });

  it('a place has its references in its own table', () => {
    expect(ask('notations', { table: 'input-register', address: 107 })).toEqual({
      ok: true,
      reference5: '30108',
      reference6: '300108',
      decimal: '107',
      fromOne: '108',
      hex: '0x006B',
    });
  });
});

describe('docs/headless.md', () => {
  const text = readFileSync(path.join(__dirname, '../../docs/headless.md'), 'utf8');
  const sections = text.split(/^## /m).slice(1);

  it('has every verb', () => {
    expect(sections.map((section) => section.split('\n')[0])).toEqual(expect.arrayContaining(Object.keys(VERBS)));
  });

  it('the example of script is what it tells, line by line, with what is left out between them', async () => {
    const [, block = ''] = sections.find((section) => section.startsWith('script\n'))!.split('```\n');
    const [line = '', ...shown] = block.trim().split('\n');
    const told: string[] = [];
    expect(
      await scriptLine(
        line,
        (event) => told.push(JSON.stringify(event)),
        () => false,
      ),
    ).toBe(0);
    const wanted = shown.filter((text) => text !== '…');
    expect(wanted.length).toBeGreaterThan(4);
    expect(told.filter((text) => wanted.includes(text))).toEqual(wanted);
  });

  it.each(
    sections.flatMap((section) => {
      const [, block = ''] = section.startsWith('script\n') ? [] : section.split('```\n');
      const lines = block.split('\n');
      return lines.flatMap((line, i): [string, string, string][] =>
        line.startsWith('{"ok"') ? [[section.split('\n')[0] ?? '', lines[i - 1] ?? '', line]] : [],
      );
    }),
  )('the example of %s is what the verb answers', (verb, line, expected) => {
    // An answer that is cut in the document ends in an ellipsis.
    const [shown = '', rest] = expected.split('…');
    const told = answer(VERBS[verb]!, line);
    expect(rest === undefined ? told : told.slice(0, shown.length)).toBe(shown);
  });
});
