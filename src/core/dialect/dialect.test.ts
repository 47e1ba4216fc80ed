import fc from 'fast-check';
import linnetSheet from '../../../sheets/linnet.json';
import pipitSheet from '../../../sheets/pipit.json';
import siskinSheet from '../../../sheets/siskin.json';
import { ascii } from '../../../tests/harness/bytes';
import type { Direction } from '../direction';
import { pick, seededRandom } from '../random/random';
import { loadSheet } from '../sheet/load-sheet';
import { dialectProtocol } from '../protocol/dialect-protocol';
import { checkSize } from './check';
import { checkDialect } from './check-dialect';
import type { Dialect, DialectMessage } from './dialect';
import { commandHelp, frameHelp } from './help';
import { literalBytes, literalText } from './literal';
import { readNumber, writeNumber } from './number-text';
import { pairDialect } from './pairing';
import { probeDialect } from './probe';
import { readDialect, readEitherWay } from './read';
import { encodeDialect, sealDialect } from './write';

function dialectOf(sheet: unknown): Dialect {
  const loaded = loadSheet(sheet);
  if (!loaded.ok || !loaded.value.dialect) throw new Error(JSON.stringify(loaded));
  return loaded.value.dialect;
}
const pipit = dialectOf(pipitSheet);
const siskin = dialectOf(siskinSheet);
const linnet = dialectOf(linnetSheet);
const literal = (text: string): string => String.fromCharCode(...literalBytes(text));

/** The checks of these vectors were formed by another program: XOR of the characters, as two hex digits. */
const VECTORS: readonly [string, Dialect, Direction, string, DialectMessage][] = [
  ['pipit read', pipit, 'request', '05.pos?~78\r', { station: 5, kind: 'read', command: 'position' }],
  [
    'pipit write',
    pipit,
    'request',
    '05.spd=9175040~4F\r',
    { station: 5, kind: 'write', command: 'speed', values: [9175040] },
  ],
  [
    'pipit write and keep',
    pipit,
    'request',
    '05.acc:=179200~40\r',
    { station: 5, kind: 'keep', command: 'acceleration', values: [179200] },
  ],
  ['pipit act', pipit, 'request', '05.goa!~63\r', { station: 5, kind: 'act', command: 'move-absolute' }],
  [
    'pipit value',
    pipit,
    'response',
    '05.pos=-57344~66\r',
    { station: 5, kind: 'value', command: 'position', values: [-57344] },
  ],
  ['pipit good', pipit, 'response', '05.ok~2F\r', { station: 5, kind: 'good' }],
  ['pipit refusal', pipit, 'response', '05.no03~29\r', { station: 5, kind: 'error', error: 3 }],
  [
    'pipit motion word',
    pipit,
    'response',
    '05.mot=00000221~61\r',
    { station: 5, kind: 'value', command: 'motion', values: [0x221] },
  ],
  [
    'pipit text',
    pipit,
    'response',
    '05.who=Pipit 1.04~09\r',
    { station: 5, kind: 'value', command: 'identity', values: ['Pipit 1.04'] },
  ],
  ['siskin read', siskin, 'request', '\x0202HR\x05\x031E', { station: 2, kind: 'read', command: 'reference' }],
  [
    'siskin write, negative',
    siskin,
    'request',
    '\x0202HRFC18\x0317',
    { station: 2, kind: 'write', command: 'reference', values: [-1000] },
  ],
  [
    'siskin two values',
    siskin,
    'request',
    '\x0202RT032064\x0304',
    { station: 2, kind: 'write', command: 'ramps', values: [50, 100] },
  ],
  [
    'siskin read by number',
    siskin,
    'request',
    '\x0202PA\x05017\x0323',
    { station: 2, kind: 'read', command: 'parameter', values: [17] },
  ],
  [
    'siskin value',
    siskin,
    'response',
    '\x0202HA03E8\x0376',
    { station: 2, kind: 'value', command: 'actual', values: [1000] },
  ],
  ['siskin good', siskin, 'response', '\x06', { kind: 'good' }],
  ['siskin refusal', siskin, 'response', '\x1522', { kind: 'error', error: 0x22 }],
  ['linnet read', linnet, 'request', 'rate\r\n', { kind: 'read', command: 'rate' }],
  ['linnet write', linnet, 'request', 'rate 1200\r\n', { kind: 'write', command: 'rate', values: [1200] }],
  ['linnet decimals', linnet, 'request', 'amps 1.50\r\n', { kind: 'write', command: 'current', values: [150] }],
  ['linnet minus', linnet, 'request', 'go -250\r\n', { kind: 'write', command: 'go', values: [-250] }],
  ['linnet act', linnet, 'request', 'stop\r\n', { kind: 'act', command: 'stop' }],
  ['linnet good', linnet, 'response', 'done\r\n', { kind: 'good' }],
  ['linnet refusal', linnet, 'response', 'err 3\r\n', { kind: 'error', error: 3 }],
];

/** Every vector with more than a bare mark, as a manual prints it: without opening, check and closing, or with the check alone left out. */
const LEFT_OUT = VECTORS.filter(([, { open }, , line]) => line.startsWith(literal(open)) && line.length > 4).flatMap(
  ([name, dialect, , line]) => {
    const { open, close, check } = dialect;
    const tail = check ? checkSize(check) + literal(check.lead ?? '').length : 0;
    const bare = check?.afterClose
      ? line.slice(literal(open).length, -(tail + literal(close).length))
      : line.slice(literal(open).length, line.length - tail - literal(close).length);
    const unchecked = `${literal(open)}${bare}${literal(close)}`;
    return [
      [`${name}, all`, dialect, bare, line] as const,
      ...(check ? [[`${name}, check`, dialect, unchecked, line] as const] : []),
    ];
  },
);

it.each(LEFT_OUT)('%s left out is offered again', (_, dialect, given, line) => {
  expect(dialectProtocol(dialect).completed(ascii(given))).toEqual(ascii(line));
});

it('nothing is offered for a whole line, for one of another language, and for none', () => {
  const { completed } = dialectProtocol(pipit);
  for (const text of ['05.pos?~78\r', '05.nosuch?', 'hello', '', '\r']) expect(completed(ascii(text))).toBeNull();
});

describe('fixed vectors, both ways', () => {
  it.each(VECTORS)('%s', (_, dialect, direction, line, message) => {
    const reading = readDialect(dialect, ascii(line), direction);
    expect(reading.faults).toEqual([]);
    expect(reading.message).toEqual(message);
    const built = encodeDialect(dialect, message, direction);
    expect(built.ok && literalText(built.value)).toBe(literalText(ascii(line)));
  });

  it('a value without its verb is read with the request in hand, and as text without it', () => {
    expect(readDialect(linnet, ascii('1200\r\n'), 'response', { command: 'rate' }).message).toMatchObject({
      kind: 'value',
      values: [1200],
    });
    expect(readDialect(linnet, ascii('1200\r\n'), 'response').message).toMatchObject({
      kind: 'value',
      values: ['1200'],
    });
  });

  it('verbs may be in large letters where the dialect allows it, and only there', () => {
    expect(readDialect(linnet, ascii('RATE 5\r\n'), 'request').faults).toEqual([]);
    expect(readDialect(pipit, ascii('05.POS?~58\r'), 'request').faults[0]?.code).toBe('unknown-function');
  });
});

/** A line of Pipit with the check that a loop of its own gives. */
const checked = (body: string): string => {
  const xor = [...body].reduce((total, char) => total ^ char.charCodeAt(0), 0);
  return `${body}~${xor.toString(16).toUpperCase().padStart(2, '0')}\r`;
};

describe('where a line stops', () => {
  it.each<[string, Dialect, string, string, number, number]>([
    ['no closing', pipit, '05.pos?~78', 'missing-end', 10, 10],
    ['a wrong check', pipit, '05.pos?~79\r', 'checksum-mismatch', 8, 10],
    ['no check', pipit, '05.pos?\r', 'missing-check', 4, 7],
    ['no station', pipit, checked('.pos?'), 'bad-token', 0, 1],
    ['a station of one digit', pipit, checked('5.pos?'), 'bad-token', 0, 1],
    ['station 33', pipit, checked('33.pos?'), 'value-out-of-range', 0, 2],
    ['no such verb', pipit, checked('05.bad?'), 'unknown-function', 3, 6],
    ['a verb that cannot be written', pipit, checked('05.pos=1'), 'not-allowed', 6, 7],
    ['nothing behind the verb', pipit, checked('05.pos'), 'bad-token', 6, 6],
    ['a letter in a number', pipit, checked('05.spd=90x'), 'trailing-bytes', 9, 10],
    ['a number that is missing', pipit, checked('05.spd='), 'bad-token', 7, 7],
    ['a value beyond its limits', pipit, checked('05.spd=1'), 'value-out-of-range', 7, 8],
    ['something behind the read', pipit, checked('05.pos?1'), 'trailing-bytes', 7, 8],
    ['no STX', siskin, '02HR\x05\x031E', 'missing-start', 0, 1],
    ['a digit short', siskin, '\x0202HRFC1\x032F', 'bad-token', 5, 8],
    ['more behind the closing', linnet, 'rate\r\nrate', 'trailing-bytes', 6, 10],
    ['no decimals', linnet, 'amps 15\r\n', 'bad-token', 5, 7],
    ['an empty line', linnet, '', 'too-short', 0, 0],
  ])('%s', (_, dialect, line, code, start, end) => {
    expect(readDialect(dialect, ascii(line), 'request').faults).toEqual([
      expect.objectContaining({ code, start, end }),
    ]);
  });
});

describe('building refuses', () => {
  it.each<[string, Dialect, DialectMessage, string]>([
    ['an unknown command', pipit, { station: 5, kind: 'read', command: 'nothing' }, 'unknown-function'],
    ['a read-only value', pipit, { station: 5, kind: 'write', command: 'position', values: [1] }, 'not-allowed'],
    ['a missing station', pipit, { kind: 'read', command: 'position' }, 'missing-field'],
    ['a station that does not exist', pipit, { station: 33, kind: 'read', command: 'position' }, 'value-out-of-range'],
    ['too few values', siskin, { station: 2, kind: 'write', command: 'ramps', values: [1] }, 'missing-field'],
    [
      'a number too long',
      siskin,
      { station: 2, kind: 'write', command: 'reference', values: [40000] },
      'value-out-of-range',
    ],
    [
      'a negative number without a sign',
      linnet,
      { kind: 'write', command: 'rate', values: [-1] },
      'value-out-of-range',
    ],
    ['a value beyond its limits', linnet, { kind: 'write', command: 'rate', values: [20001] }, 'value-out-of-range'],
  ])('%s', (_, dialect, message, code) => {
    const built = encodeDialect(dialect, message, 'request');
    expect(built.ok ? null : built.error[0]?.code).toBe(code);
  });
});

describe('numbers as text', () => {
  it.each([
    [{ base: 'decimal' }, 42, '42'],
    [{ base: 'decimal', width: 5 }, 42, '00042'],
    [{ base: 'decimal', sign: 'minus' }, -42, '-42'],
    [{ base: 'decimal', sign: 'always' }, 42, '+42'],
    [{ base: 'decimal', decimals: 2 }, 5, '0.05'],
    [{ base: 'decimal', decimals: 2, sign: 'minus' }, -1234, '-12.34'],
    [{ base: 'hex', width: 4 }, 0xbeef, 'BEEF'],
    [{ base: 'hex', width: 4, sign: 'twos' }, -1, 'FFFF'],
    [{ base: 'hex', width: 8, sign: 'twos' }, -2147483648, '80000000'],
  ] as const)('%j: %s is %s', (shape, value, text) => {
    expect(writeNumber(value, shape)).toEqual({ ok: true, value: text });
    expect(readNumber(text, shape)).toEqual({ ok: true, value });
  });
});

it('pairs by station, verb and kind of reply', () => {
  const ask: DialectMessage = { station: 5, kind: 'read', command: 'position' };
  expect(pairDialect(pipit, ask, { station: 5, kind: 'value', command: 'position', values: [1] }).kind).toBe('answer');
  expect(pairDialect(pipit, ask, { station: 5, kind: 'value', command: 'speed', values: [1] }).kind).toBe('other');
  expect(pairDialect(pipit, ask, { station: 6, kind: 'value', command: 'position', values: [1] }).kind).toBe('other');
  expect(pairDialect(pipit, ask, { station: 5, kind: 'good' }).kind).toBe('other');
  expect(pairDialect(pipit, ask, { station: 5, kind: 'error', error: 4 })).toEqual({ kind: 'exception', code: 4 });
});

it('a reply is cut out of a stream at any place', () => {
  for (const [name, dialect, direction, line] of VECTORS) {
    if (direction !== 'response') continue;
    const bytes = ascii(line);
    for (let cut = 0; cut < bytes.length; cut++)
      expect([name, cut, probeDialect(dialect, bytes, 0, cut)]).toEqual([name, cut, 0]);
    expect([name, probeDialect(dialect, Uint8Array.from([...bytes, ...bytes]), 0, 2 * bytes.length)]).toEqual([
      name,
      bytes.length,
    ]);
  }
});

it('both ways are tried where nobody says who spoke', () => {
  expect(readEitherWay(pipit, ascii('05.pos=-57344~66\r')).direction).toBe('response');
  expect(readEitherWay(pipit, ascii('05.pos?~78\r')).direction).toBe('request');
});

it('sealing mends a check', () => {
  expect(literalText(sealDialect(pipit, ascii('05.pos?~00\r')))).toBe('05.pos?~78<CR>');
  expect(literalText(sealDialect(siskin, ascii('\x0202HR\x05\x0300')))).toBe('<STX>02HR<ENQ><ETX>1E');
});

it('help says how each command is written', () => {
  expect(frameHelp(pipit)).toBe('{station}.{command}~{check XOR-8}<CR> · good: ok · refused: no{number}');
  const speed = pipit.commands.find(({ id }) => id === 'speed')!;
  expect(commandHelp(pipit, speed).map(({ syntax }) => syntax)).toEqual(['spd?', 'spd={speed}', 'spd:={speed}']);
  expect(commandHelp(pipit, speed)[1]?.meaning).toBe('write speed of a move: speed in mm/s 16 to 64225280');
});

it('control characters have their names', () => {
  expect([...literalBytes('<STX>A<CR><LF><XYZ>')].map((byte) => byte.toString(16))).toEqual([
    '2',
    '41',
    'd',
    'a',
    '3c',
    '58',
    '59',
    '5a',
    '3e',
  ]);
  expect(literalText([2, 0x41, 13, 0x7f, 0x8f])).toBe('<STX>A<CR><DEL><8F>');
});

it.each([
  ['no closing', { close: '' }, 'close'],
  [
    'two commands of one verb',
    { commands: [pipit.commands[0]!, { ...pipit.commands[1]!, verb: 'pos' }] },
    'commands[1].verb',
  ],
  ['an access without a mark', { marks: { read: '?' } }, 'commands[1].access'],
  [
    'two’s complement of free width',
    { commands: [{ ...pipit.commands[1]!, fields: [{ name: 'x', base: 'hex' as const, sign: 'twos' as const }] }] },
    'commands[0].fields[0]',
  ],
])('the check of a dialect names %s', (_, change, path) => {
  expect(checkDialect({ ...pipit, ...change }).map((one) => one.path)).toContain(path);
});

describe('laws', () => {
  const messages = fc.oneof(
    ...pipit.commands.flatMap((command) =>
      command.access.map((kind) =>
        fc
          .tuple(
            fc.integer({ min: 1, max: 32 }),
            ...(kind === 'read' || kind === 'act' ? [] : command.fields).map(({ min = 0, max = 99 }) =>
              fc.integer({ min, max }),
            ),
          )
          .map(([station, ...values]): DialectMessage => ({
            station,
            kind,
            command: command.id,
            ...(values.length > 0 ? { values } : {}),
          })),
      ),
    ),
  );

  it('decode(encode(m)) is m', () => {
    fc.assert(
      fc.property(messages, (message) => {
        const built = encodeDialect(pipit, message, 'request');
        if (!built.ok) throw new Error(built.error[0]?.text);
        expect(readDialect(pipit, built.value, 'request')).toMatchObject({ faults: [], message });
      }),
      { seed: 21, numRuns: 500 },
    );
  });

  it('100,000 damaged lines: nothing throws, leaves cover every byte once, one changed bit is always reported', () => {
    const RUNS = 100_000;
    const random = seededRandom(22);
    for (let i = 0; i < RUNS; i++) {
      const [, dialect, direction, line] = VECTORS[pick(random, VECTORS.length)]!;
      const bytes = ascii(line);
      const at = pick(random, bytes.length);
      bytes[at] = (bytes[at] ?? 0) ^ (1 << pick(random, 8));
      const cut = i % 3 === 0 ? bytes.slice(0, pick(random, bytes.length + 1)) : bytes;
      const { faults, fields } = readDialect(dialect, cut, direction);
      let reached = 0;
      for (const { start, end } of fields) {
        if (start !== reached || end <= start)
          throw new Error(`run ${i}: ${literalText(cut)} has a hole at ${reached}`);
        reached = end;
      }
      if (reached !== cut.length) throw new Error(`run ${i}: ${literalText(cut)} is covered up to ${reached}`);
      for (const { start, end } of faults)
        if (start < 0 || end < start || end > cut.length) throw new Error(`run ${i}: ${literalText(cut)}`);
      if (dialect === pipit && cut.length === line.length && faults.length === 0)
        throw new Error(`run ${i}: ${literalText(cut)} was taken for good`);
    }
  });
});
