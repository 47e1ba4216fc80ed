/** @jest-environment node */
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { concatBytes } from '../src/core/bytes/concat';
import { ModbusTcpPackets, pcapngHead, serialPacket } from '../src/core/capture/pcapng-write';
import { encodeTcp } from '../src/core/modbus/encode';
import type { Direction } from '../src/core/direction';
import type { ModbusMessage } from '../src/core/modbus/message';
import { rtu } from './harness/line';

/**
 * The pcapng that is written, read by an independent reader: the command line of a general packet analyser from Debian's packages. `.ci/run`
 * installs it and demands it; elsewhere these tests are left out where it is missing.
 */
const READER = 'tshark';
const isThere = spawnSync(READER, ['--version']).status === 0;
const demanded = process.env.BUJO_NEED_READER === '1';

(isThere || demanded ? describe : describe.skip)('an independent reader opens what is written', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'bujo-capture-'));
  const file = path.join(folder, 'made.pcapng');
  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  const ask = (...fields: string[]): string[][] =>
    execFileSync(READER, ['-r', file, '-T', 'fields', ...fields.flatMap((field) => ['-e', field])], {
      encoding: 'utf8',
    })
      .replace(/\n$/, '')
      .split('\n')
      .map((line) => line.split('\t'));

  const SAID: readonly (readonly [Direction, ModbusMessage])[] = [
    ['request', { transactionId: 1, unit: 9, fc: 3, address: 0x6b, quantity: 3 }],
    ['response', { transactionId: 1, unit: 9, fc: 3, values: [0x22b, 0, 0x64] }],
    ['request', { transactionId: 2, unit: 9, fc: 6, address: 1, values: [3] }],
    ['response', { transactionId: 2, unit: 9, fc: 6, exception: 2 }],
    [
      'request',
      { transactionId: 3, unit: 9, fc: 23, readAddress: 3, readQuantity: 6, writeAddress: 14, values: [255, 255, 255] },
    ],
  ];

  beforeAll(() => {
    const packets = new ModbusTcpPackets(40_100);
    const body = SAID.map(([direction, message], i) => {
      const frame = encodeTcp(message, direction);
      if (!frame.ok) throw new Error(frame.error[0]?.text);
      return packets.packet(1.7e15 + i * 1000, frame.value, direction, i === 0 ? 'the first one' : '');
    });
    writeFileSync(file, concatBytes(pcapngHead('Bujo'), ...body, serialPacket(1.7e15 + 9000, rtu('03 06 02C3 0F45'))));
  });

  it('Modbus TCP is decoded as such, with function, transaction and unit', () => {
    const rows = ask('frame.protocols', 'mbtcp.trans_id', 'mbtcp.unit_id', 'modbus.func_code', 'modbus.exception_code');
    expect(rows.slice(0, 5)).toEqual(
      SAID.map(([, message]) => [
        'eth:ethertype:ip:tcp:mbtcp:modbus',
        `${message.transactionId}`,
        '9',
        `${message.fc}`,
        message.exception === undefined ? '' : `${message.exception}`,
      ]),
    );
  });

  it('addresses, registers, times and the comment are the ones that were meant', () => {
    expect(ask('modbus.reference_num', 'modbus.word_cnt')[0]).toEqual(['107', '3']);
    expect(ask('modbus.regval_uint16')[1]).toEqual(['555,0,100']);
    expect(ask('frame.time_epoch', 'frame.comment')[0]).toEqual([
      expect.stringMatching(/^1700000000\.000000/),
      'the first one',
    ]);
  });

  it('no packet is malformed, and every checksum is right', () => {
    const found = execFileSync(
      READER,
      [
        '-r',
        file,
        '-o',
        'tcp.check_checksum:TRUE',
        '-o',
        'ip.check_checksum:TRUE',
        '-T',
        'fields',
        '-e',
        '_ws.malformed',
        '-e',
        'tcp.checksum.status',
        '-e',
        'ip.checksum.status',
      ],
      { encoding: 'utf8' },
    );
    expect(found.trimEnd().split('\n').slice(0, 5)).toEqual(SAID.map(() => '\t1\t1'));
  });

  it('serial bytes stand under a user link type, unchanged', () => {
    expect(ask('frame.encap_type', 'frame.cap_len').at(-1)).toEqual(['45', '8']);
  });
});
