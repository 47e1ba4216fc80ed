import { ascii, hex } from '../../../tests/harness/bytes';
import { nothingAgain, wholeEntries, type WholeEntry } from '../../../tests/harness/frame-index';
import { rtu } from '../../../tests/harness/line';
import { exchangeOf } from '../../../tests/harness/streams';
import { ethernet4, ethernet6, pcapFile } from '../../../tests/harness/packets';
import { concatBytes } from '../bytes/concat';
import { bytesToHex } from '../bytes/hex';
import { encodeTcp } from '../modbus/encode';
import { pick, seededRandom } from '../random/random';
import { filterFrames, type FrameFilter } from './frame-filter';
import type { FrameIndex, ReadAgain } from './frame-index';
import { isPacketFile } from './pcap-read';
import { ModbusTcpPackets, pcapngHead, serialPacket } from './pcapng-write';
import type { CapturePlan } from './capture-plan';
import { captureReader, type Capture } from './read-capture';
import type { Selection } from './selection';
import { silentStations } from './statistics';
import { dumpLine } from '../bytes/dump';
import { guessMapping, logRecord, timeIn } from './text-log';

const PLAN: CapturePlan = { form: 'binary', protocol: 'modbus-rtu', ports: [502], gapUs: 4000 };

const placesOf = (found: Selection): readonly number[] => [...found.slice(0, found.count)];

interface Read extends Capture {
  readonly rows: readonly (WholeEntry & { readonly hex: string })[];
  readonly readAgain: ReadAgain;
}

async function read(plan: Partial<CapturePlan>, file: Uint8Array, chunk = file.length): Promise<Read> {
  const whole = { ...PLAN, ...plan };
  const kept: Uint8Array[] = [];
  const reader = captureReader(whole, (bytes) => kept.push(bytes.slice()));
  for (let at = 0; at < file.length; at += chunk) reader.push(file.subarray(at, at + chunk));
  const capture = reader.end();
  const source = whole.form === 'binary' ? file : concatBytes(...kept);
  const readAgain: ReadAgain = (from, until) => Promise.resolve(source.slice(from, until));
  const rows = (await wholeEntries(capture.index, readAgain)).map((entry) => ({
    ...entry,
    hex: bytesToHex(source.subarray(entry.offset, entry.offset + entry.length)),
  }));
  return { ...capture, rows, readAgain };
}

const tcpFrame = (transactionId: number, response = false): Uint8Array => {
  const built = response
    ? encodeTcp({ transactionId, unit: 1, fc: 3, values: [transactionId] }, 'response')
    : encodeTcp({ transactionId, unit: 1, fc: 3, address: 100 + transactionId, quantity: 1 }, 'request');
  if (!built.ok) throw new Error('not built');
  return built.value;
};

it('a log without directions: a reply within the gap has its own time, not its request’s', async () => {
  const log = '0.000 03 03 01 82 00 01 24 0E\n0.003 03 03 02 2A 0D 1E 21\n';
  const bytes = rtu('03 03 0182 0001');
  const answer = rtu('03 03 02 2A0D');
  const text = log
    .replace('03 03 01 82 00 01 24 0E', bytesToHex(bytes, ' '))
    .replace('03 03 02 2A 0D 1E 21', bytesToHex(answer, ' '));
  const mapping = {
    separator: 'blanks',
    timeColumn: 1,
    timeUnit: 's',
    directionColumn: 0,
    requestMark: '',
    bytesColumn: 2,
  } as const;
  const { rows } = await read({ form: 'text-log', mapping }, ascii(text));
  expect(rows.map(({ timeUs }) => timeUs)).toEqual([0, 3000]);
});

describe('a binary file', () => {
  const ask = rtu('03 03 0182 0004');
  const answer = rtu('03 03 08 0001 0002 0003 0004');
  const file = concatBytes(
    ask,
    answer,
    hex('AA'),
    ask,
    ask,
    rtu('07 03 0000 0001'),
    rtu('03 06 02C3 0F45'),
    rtu('03 86 03'),
  );

  it('index, partners and statistics', async () => {
    const { rows, statistics } = await read({}, file);
    expect(rows.map(({ direction, partner }) => `${direction} ${partner}`)).toEqual([
      'request 1', 'response 0', 'junk -1', 'request -1', 'request -1', 'request -1', 'request 7', 'response 6',
    ]); // prettier-ignore
    expect(statistics).toMatchObject({ frames: 7, junkBytes: 1, damaged: 1 });
    expect(statistics.stations[0]).toMatchObject({
      unit: 3,
      requests: 4,
      responses: 2,
      exceptions: 1,
      unanswered: 2,
      retries: 1,
    });
    expect(silentStations(statistics)).toEqual([7]);
  });

  it('filters by station, function, register, refusal and fault', async () => {
    const { index, readAgain } = await read({}, file);
    const found = async (filter: FrameFilter): Promise<readonly number[]> =>
      placesOf((await filterFrames(index, filter, readAgain))!);
    expect(await found({ unit: 7 })).toEqual([5]);
    expect(await found({ fc: 6 })).toEqual([6, 7]);
    expect(await found({ register: 0x185 })).toEqual([0, 1, 3, 4]);
    expect(await found({ register: 0x186 })).toEqual([]);
    expect(await found({ only: 'exceptions' })).toEqual([7]);
    expect(await found({ only: 'faults' })).toEqual([2]);
    expect(await found({ only: 'unanswered' })).toEqual([3, 4, 5]);
  });
});

it('a long stream of frames hardly alike: what is read again of it is what a short one keeps', async () => {
  const COPIES = 11;
  const random = seededRandom(23);
  const part = concatBytes(...Array.from({ length: 40_000 }, () => exchangeOf(random)).flat());
  const copies = concatBytes(...Array.from({ length: COPIES }, () => part));
  const indexOf = (bytes: Uint8Array): FrameIndex => {
    const reader = captureReader(PLAN, () => undefined);
    reader.push(bytes);
    return reader.end().index;
  };
  const [kept, index] = [indexOf(part), indexOf(copies)];
  expect([...index.outlines()].some(({ block }) => !block.isWhole)).toBe(true);
  const readAgain: ReadAgain = (from, until) => Promise.resolve(copies.subarray(from, until));
  for (const filter of [{ unit: 7 }, { fc: 23 }, { register: 30_000 }, { unit: 3, only: 'exceptions' }] as const) {
    const places = placesOf((await filterFrames(kept, filter, nothingAgain))!);
    const again = Array.from({ length: COPIES }, (_, i) => places.map((place) => place + i * kept.count));
    expect(placesOf((await filterFrames(index, filter, readAgain))!)).toEqual(again.flat());
  }
});

describe('packet files', () => {
  const exchange = [
    ethernet4({ sequence: 1000, payload: tcpFrame(1) }),
    ethernet4({ sequence: 5000, payload: tcpFrame(1, true), fromClient: false }),
  ];

  it.each([
    ['little end first', {}],
    ['big end first', { little: false }],
    ['nanoseconds', { nano: true }],
  ])('the older format, %s', async (_, how) => {
    const file = pcapFile(exchange, how);
    expect(isPacketFile(file)).toBe(true);
    const { rows } = await read({ form: 'packets', protocol: 'modbus-tcp' }, file);
    expect(rows.map(({ direction, timeUs, partner, tcp }) => [direction, timeUs, partner, tcp])).toEqual([
      ['request', 0, 1, true],
      ['response', 1000, 0, true],
    ]);
    expect(rows[0]?.hex).toBe(bytesToHex(tcpFrame(1)));
  });

  it.each<[string, Uint8Array[], number[]]>([
    ['two frames in a segment', [ethernet4({ sequence: 1, payload: concatBytes(tcpFrame(1), tcpFrame(2)) })], [1, 2]],
    [
      'one frame over two segments',
      [
        ethernet4({ sequence: 1, payload: tcpFrame(1).slice(0, 5) }),
        ethernet4({ sequence: 6, payload: tcpFrame(1).slice(5) }),
      ],
      [1],
    ],
    [
      'a repeat',
      [ethernet4({ sequence: 1, payload: tcpFrame(1) }), ethernet4({ sequence: 1, payload: tcpFrame(1) })],
      [1],
    ],
    [
      'a repeat that overlaps',
      [
        ethernet4({ sequence: 1, payload: tcpFrame(1) }),
        ethernet4({ sequence: 7, payload: concatBytes(tcpFrame(1).slice(6), tcpFrame(2)) }),
      ],
      [1, 2],
    ],
    [
      'segments that overtook each other',
      [
        ethernet4({ sequence: 1, payload: tcpFrame(1) }),
        ethernet4({ sequence: 25, payload: tcpFrame(3) }),
        ethernet4({ sequence: 13, payload: tcpFrame(2) }),
      ],
      [1, 2, 3],
    ],
    [
      'sequence numbers that begin anew at 0',
      [ethernet4({ sequence: 2 ** 32 - 6, payload: tcpFrame(1) }), ethernet4({ sequence: 6, payload: tcpFrame(2) })],
      [1, 2],
    ],
    [
      'the opening of a connection',
      [
        ethernet4({ sequence: 99, payload: new Uint8Array(0), flags: 2 }),
        ethernet4({ sequence: 100, payload: tcpFrame(1) }),
      ],
      [1],
    ],
    ['a VLAN', [ethernet4({ sequence: 1, payload: tcpFrame(1) }, true)], [1]],
    ['IPv6', [ethernet6({ sequence: 1, payload: tcpFrame(1) })], [1]],
  ])('%s', async (_, packets, transactions) => {
    const { rows } = await read({ form: 'packets', protocol: 'modbus-tcp' }, pcapFile(packets));
    expect(rows.map(({ hex: text }) => parseInt(text.slice(0, 4), 16))).toEqual(transactions);
  });

  it('what the capture lost is told, and the next frame is found', async () => {
    const packets = [
      ethernet4({ sequence: 1, payload: tcpFrame(1) }),
      ethernet4({ sequence: 13 + 12, payload: tcpFrame(3) }),
      ethernet4({ sequence: 13 + 24, payload: tcpFrame(4) }),
    ];
    const { rows, notes } = await read({ form: 'packets', protocol: 'modbus-tcp' }, pcapFile(packets));
    expect(rows.map(({ hex: text }) => parseInt(text.slice(0, 4), 16))).toEqual([1, 3, 4]);
    expect(notes).toEqual(['12 bytes of connections are missing in the capture']);
  });

  it('another port counts only when the user names it', async () => {
    const file = pcapFile([ethernet4({ sequence: 1, payload: tcpFrame(1), port: 1502 })]);
    expect((await read({ form: 'packets' }, file)).rows).toHaveLength(0);
    expect((await read({ form: 'packets', ports: [502, 1502] }, file)).rows).toHaveLength(1);
  });

  it('serial bytes through a device server, though one of them looks like a head of Modbus TCP; the port that was meant is named', async () => {
    const asked = rtu('03 03 0000 0002');
    const said = rtu('03 03 04 0001 0002');
    const packets = [
      ethernet4({ sequence: 1, payload: asked, port: 5401 }),
      ethernet4({ sequence: 1, payload: said.slice(0, 4), port: 5401, fromClient: false }),
      ethernet4({ sequence: 5, payload: said.slice(4), port: 5401, fromClient: false }),
      ethernet4({ sequence: 9, payload: rtu('03 06 0001 0002'), port: 5401 }),
    ];
    const file = pcapFile(packets, { everyUs: 20_000 });
    const unnamed = await read({ form: 'packets', protocol: 'modbus-rtu' }, file);
    expect(unnamed.notes[0]).toBe(
      '4 packets carry nothing on the ports 502; 4 of them are on port 5401: name it if it is the line',
    );
    const { rows, notes } = await read({ form: 'packets', protocol: 'modbus-rtu', ports: [5401] }, file);
    expect(rows.map(({ direction, hex: text }) => [direction, text])).toEqual([
      ['request', bytesToHex(asked)],
      ['response', bytesToHex(said)],
      ['request', bytesToHex(rtu('03 06 0001 0002'))],
    ]);
    expect(notes).toEqual([]);
  });

  it.each<[string, Uint8Array, RegExp]>([
    ['an empty file', new Uint8Array(0), /^the file is empty$/],
    ['a head that is cut', pcapFile([]).slice(0, 20), /the file ends inside its head/],
    ['a packet that is cut', pcapFile([ethernet4({ sequence: 1, payload: tcpFrame(1) })]).slice(0, 70), /is cut short/],
    ['no packets', pcapFile([]), /none of 24 bytes belong to a frame/],
  ])('%s is said to be so', async (_, file, said) => {
    expect((await read({ form: 'packets', protocol: 'modbus-tcp' }, file)).notes.join('; ')).toMatch(said);
  });

  it('packets of which only the beginning was kept are told', async () => {
    const file = pcapFile([ethernet4({ sequence: 1, payload: tcpFrame(1) })]);
    // The original length stands behind the captured one (draft-ietf-opsawg-pcap, 5).
    new DataView(file.buffer).setUint32(24 + 12, 1500, true);
    expect((await read({ form: 'packets', protocol: 'modbus-tcp' }, file)).notes[0]).toBe(
      'of 1 packet the capture kept only the beginning: their last bytes are missing',
    );
  });

  it('what it writes it reads again: Modbus TCP and serial bytes, cut at any place', async () => {
    const packets = new ModbusTcpPackets(40_001);
    const file = concatBytes(
      pcapngHead('test'),
      packets.packet(1e15, tcpFrame(1), 'request', 'a comment'),
      packets.packet(1e15 + 2500, tcpFrame(1, true), 'response'),
      serialPacket(1e15 + 20_000, rtu('03 06 02C3 0F45')),
      serialPacket(1e15 + 40_000, rtu('03 06 02C3 0F45')),
    );
    for (const chunk of [file.length, 1, 7, 64]) {
      const { rows, notes } = await read({ form: 'packets' }, file, chunk);
      expect(notes).toEqual([]);
      expect(rows.map(({ direction, timeUs, tcp, unit, fc }) => [direction, timeUs, tcp, unit, fc])).toEqual([
        ['request', 0, true, 1, 3],
        ['response', 2500, true, 1, 3],
        ['request', 20_000, false, 3, 6],
        ['response', 40_000, false, 3, 6],
      ]);
    }
  });

  it.each([
    ['cut short', (file: Uint8Array) => file.slice(0, file.length - 5), 'cut short inside a block'],
    [
      'lengths that differ',
      (file: Uint8Array) => {
        file[file.length - 1] = 9;
        return file;
      },
      'the two lengths of a block differ',
    ],
    [
      'a block that cannot be',
      (file: Uint8Array) => {
        file.set([255, 255, 255, 255], file.length - 36);
        return file;
      },
      'cannot be',
    ],
  ])('%s: the packets before it count, and the place is named', async (_, damage, text) => {
    const file = damage(
      concatBytes(
        pcapngHead('test'),
        serialPacket(0, rtu('03 06 02C3 0F45')),
        serialPacket(9e4, rtu('03 06 02C3 0F45')),
      ),
    );
    const { notes } = await read({ form: 'packets' }, file);
    expect(notes.join()).toMatch(/^at byte \d+: /);
    expect(notes.join()).toContain(text);
  });

  it('100,000 damaged files: nothing throws', () => {
    const good = concatBytes(
      pcapngHead('t'),
      new ModbusTcpPackets(1).packet(5, tcpFrame(1), 'request'),
      serialPacket(9, rtu('03 03 0182 0004')),
    );
    const random = seededRandom(8);
    for (let i = 0; i < 100_000; i++) {
      const file = good.slice(0, i % 5 === 0 ? pick(random, good.length) : good.length);
      for (let k = 0; k < 3; k++) if (file.length > 0) file[pick(random, file.length)] = pick(random, 256);
      const reader = captureReader({ ...PLAN, form: 'packets' }, () => undefined);
      reader.push(file);
      reader.end();
    }
  });
});

describe('text', () => {
  it.each([
    ['12:34:56.789', 's', 45_296_789_000],
    ['1.5', 's', 1_500_000],
    ['250', 'ms', 250_000],
    ['[00:00:01,5]', 's', 1_500_000],
    ['1970-01-02T00:00:00Z', 's', 86_400_000_000],
    ['soon', 's', NaN],
  ] as const)('the time %s in %s', (text, unit, us) => {
    expect(timeIn(text, unit)).toBe(us);
  });

  it.each([
    ['0000  03 03 01 82 00 04 e4 38', '030301820004e438'],
    ['00000010: 0303 0182 0004 e438                      ......8', '030301820004e438'],
    [
      '00000000  03 03 01 82 00 04 e4 38  03 03 08 00 01 00 02 00  |.......8........|',
      '030301820004e4380303080001000200',
    ],
    ['03 03 01 82', '03030182'],
    ['not a dump', null],
  ])('the dump line %j', (line, bytes) => {
    const read = dumpLine(line);
    expect(read && bytesToHex(read.bytes)).toBe(bytes);
  });

  const LOG = [
    `12:00:00.000 TX ${bytesToHex(rtu('03 03 0182 0001'), ' ')}`,
    `12:00:00.012 RX ${bytesToHex(rtu('03 03 02 2A0D'), ' ').slice(0, 11)}`,
    `12:00:00.014 RX ${bytesToHex(rtu('03 03 02 2A0D'), ' ').slice(12)}`,
    'line opened',
    `12:00:00.100 TX ${bytesToHex(rtu('03 06 02C3 0F45'), ' ')}`,
    `12:00:00.300 TX ${bytesToHex(rtu('03 06 02C3 0F45'), ' ')}`,
  ];

  it('a guessed mapping finds times, who spoke and bytes', () => {
    expect(guessMapping(LOG)).toMatchObject({
      separator: 'blanks',
      timeColumn: 1,
      directionColumn: 2,
      requestMark: 'TX',
      bytesColumn: 3,
    });
    expect(guessMapping(['1;>;01 03', '2;<;01 83 02'])).toMatchObject({
      separator: 'semicolon',
      timeColumn: 1,
      directionColumn: 2,
      requestMark: '>',
      bytesColumn: 3,
    });
    expect(guessMapping(['01 03 00 00', '01 03 02'])).toMatchObject({
      timeColumn: 0,
      directionColumn: 0,
      bytesColumn: 1,
    });
  });

  it('records that follow each other closely are one frame; a write repeated after a silence is no echo', async () => {
    const mapping = guessMapping(LOG);
    const { rows, notes, statistics } = await read({ form: 'text-log', mapping }, ascii(LOG.join('\r\n')));
    expect(rows.map(({ direction, timeUs, partner }) => [direction, timeUs, partner])).toEqual([
      ['request', 0, 1],
      ['response', 12_000, 0],
      ['request', 100_000, -1],
      ['request', 300_000, -1],
    ]);
    expect(notes).toEqual(['1 of 6 lines hold no bytes that could be read; the first is line 4']);
    expect(statistics.stations[0]).toMatchObject({ retries: 1, unanswered: 2, shortestUs: 12_000, longestUs: 12_000 });
  });

  it('a line without bytes is no record', () => {
    expect(logRecord('12:00 hello', guessMapping(LOG))).toBeNull();
  });

  it('the last offset of a dump is no data, and a lone row of hex is', async () => {
    const dump = '00000000  03 03 01 82 00 04 e4 38\n00000008\n';
    const dumped = await read({ form: 'hex-dump' }, new TextEncoder().encode(dump));
    expect(dumped.rows.map(({ hex: text }) => text)).toEqual(['030301820004e438']);
    expect(dumped.notes.join()).not.toMatch(/lines hold no bytes/);
    const rows = await read({ form: 'hex-dump' }, new TextEncoder().encode('03030182\n0004e438\n'));
    expect(rows.rows.map(({ hex: text }) => text)).toEqual(['030301820004e438']);
  });

  it('a hex dump is one stream', async () => {
    const stream = concatBytes(rtu('03 03 0182 0004'), rtu('03 03 08 0001 0002 0003 0004'));
    const dump = Array.from(
      { length: 2 },
      (_, i) => `${(16 * i).toString(16).padStart(8, '0')}  ${bytesToHex(stream.subarray(16 * i, 16 * i + 16), ' ')}`,
    ).join('\n');
    expect((await read({ form: 'hex-dump' }, ascii(dump))).rows.map(({ direction }) => direction)).toEqual([
      'request',
      'response',
    ]);
  });
});
