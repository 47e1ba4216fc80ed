import { ussParameterOf } from '../src/core/places/uss-link';
import { cellOf } from '../src/core/sheet/place';
import { bytesToHex } from '../src/core/bytes/hex';
import type { SerialSettings } from '../src/core/line/settings';
import { encodeUss, type UssDraft } from '../src/core/uss/encode';
import type { UssMessage } from '../src/core/uss/message';
import { channelState } from '../src/core/uss/pairing';
import { readTask, writeTask, type UssParameter } from '../src/core/uss/parameter';
import { readUss } from '../src/core/uss/telegram';
import { ussProtocol } from '../src/core/protocol/uss-protocol';
import { textIn, valueOf } from '../src/core/uss/value';
import type { ExchangeResult } from '../src/link/request';
import { UssDrive } from '../src/standin/uss-drive';
import { telegram } from '../src/standin/uss-station';
import { hex } from './harness/bytes';
import { standinLine } from './harness/standin-line';

/** Line K2 and its hoist: the bench's encoder against a stand-in that was written from the description by itself (from memory). */
const K2: SerialSettings = { rate: 38400, dataBits: 8, parity: 'E', stopBits: 1 };

async function k2() {
  const line = await standinLine('dunlin', 'uss', [4], K2);
  const rule = line.index.sheet.uss!;
  const parameter = (number: number): UssParameter => {
    const found = line.index.byCell.get(cellOf({ kind: 'uss', number }));
    return (found && ussParameterOf(found)) ?? { number, double: false, elements: 1 };
  };
  const send = (draft: UssDraft): ExchangeResult => {
    const built = encodeUss(draft);
    if (!built.ok) throw new Error(built.error[0]?.text);
    return line.ask(built.value);
  };
  const said = (result: ExchangeResult): UssMessage => {
    const { message } = readUss(result.reply ?? new Uint8Array(), 4);
    if (!message) throw new Error(result.outcome);
    return message;
  };
  /** Repeats a task until its own answer comes, as a master does. */
  const work = (draft: UssDraft): UssMessage => {
    for (let tries = 0; tries < 5; tries++) {
      const answer = said(send(draft));
      const asked = readUss(encoded(draft), 4).message!;
      if (channelState(asked, answer).kind !== 'older' && answer.ak !== 0) return answer;
    }
    throw new Error('the answer does not come');
  };
  const encoded = (draft: UssDraft): Uint8Array => {
    const built = encodeUss(draft);
    if (!built.ok) throw new Error(built.error[0]?.text);
    return built.value;
  };
  const read = (number: number, element = 0): UssMessage => {
    const task = readTask(rule, 4, parameter(number), element);
    if (!task.ok) throw new Error(task.error);
    return work(task.value.draft);
  };
  const write = (number: number, value: number, memory: 'working' | 'kept' = 'working', element = 0): UssMessage => {
    const task = writeTask(rule, 4, parameter(number), value, memory, element);
    if (!task.ok) throw new Error(task.error);
    return work(task.value.draft);
  };
  return { ...line, send, said, read, write, work };
}

it('the stand-in builds telegrams as the bench does', () => {
  expect(bytesToHex(telegram(3, [0x04, 0x7e, 0, 0]))).toBe(bytesToHex(hex('02 06 03 047E 0000 7D')));
});

describe('parameters of the hoist', () => {
  it('reads a word, a double word, an array element and a page', async () => {
    const { read } = await k2();
    expect(valueOf(read(120), 'response')).toBe(80);
    expect(read(211)).toMatchObject({ ak: 2 });
    expect(valueOf(read(211), 'response')).toBe(1_200_000);
    expect(read(140, 2)).toMatchObject({ ak: 4, ind: 0x0200, pwe: [0, 1638] });
    expect(read(2110)).toMatchObject({ ak: 1, pnu: 62, ind: 0x0010, pwe: [0, 150] });
    expect(valueOf(read(4203), 'response')).toBe(18231);
  });

  it('number of elements, text, and a description that it does not have', async () => {
    const { work, protocol, index } = await k2();
    expect(work({ address: 4, ak: 9, pnu: 140, pzd: [0, 0] })).toMatchObject({ ak: 6, pwe: [0, 4] });
    const text = [0, 1, 2].map((ind) =>
      textIn(work({ address: 4, ak: 15, pnu: 14, ind: ind << 8, pzd: [0, 0] }).pwe ?? []),
    );
    expect(text.join('')).toBe('Vent hoist');
    // A part of a text is no element of the array whose text it is; an element is.
    const built = (draft: UssDraft) => (encodeUss(draft) as { value: Uint8Array }).value;
    const said = (draft: UssDraft) => protocol.sentence(built(draft), 'request', null, index);
    expect(said({ address: 4, ak: 15, pnu: 140, ind: 0x0100, pzd: [0, 0] })).toContain('fixed speeds [0]');
    expect(said({ address: 4, ak: 6, pnu: 140, ind: 0x0100, pzd: [0, 0] })).toContain('fixed speeds [1]');
    expect(work({ address: 4, ak: 4, pnu: 120, pzd: [0, 0] })).toMatchObject({ ak: 7, pwe: [0, 9] });
  });

  it('a whole text in a channel as long as it needs, and a sentence that names parameter, unit and state', async () => {
    const { send, index } = await k2();
    const { reply, request } = send({ address: 4, pkwWords: 7, ak: 15, pnu: 14, pzd: [0, 0] });
    const protocol = ussProtocol(index.sheet.uss ?? null);
    expect(protocol.sentence(reply!, 'response', request.bytes, index)).toMatch(
      /^parameter 14 station name, text “Vent hoist” · status 0x[0-9A-F]{4} · S1 .*, actual 0 = 0 Hz$/,
    );
    const value = send({ address: 4, ak: 1, pnu: 120, pzd: [0x047e, 8192] });
    expect(protocol.sentence(value.request.bytes, 'request', null, index)).toMatch(
      /^read parameter 120 ramp-up time · control 0x047E.*, reference 8192 = /,
    );
    expect(protocol.sentence(value.reply!, 'response', value.request.bytes, index)).toMatch(
      /^word, parameter 120 ramp-up time: 80 = 8 s · /,
    );
  });

  it('writes to working memory are lost with power, kept ones are not', async () => {
    const { read, write, yard, clock, kept } = await k2();
    expect(write(120, 95)).toMatchObject({ ak: 1, pwe: [0, 95] });
    expect(write(121, 33, 'kept')).toMatchObject({ ak: 1, pwe: [0, 33] });
    expect(kept[4]).toEqual({ '121.0': 33 });
    yard.drives.get(4)?.powerCycle();
    clock.advanceBy(2_000_000);
    expect(valueOf(read(120), 'response')).toBe(80);
    expect(valueOf(read(121), 'response')).toBe(33);
  });

  it('writes a negative double word of an array and keeps it', async () => {
    const { read, write, kept } = await k2();
    expect(write(220, 0xffff_ffff - 41, 'kept', 1)).toMatchObject({ ak: 5, ind: 0x0100, pwe: [0xffff, 0xffd6] });
    expect(kept[4]).toEqual({ '220.1': -42 });
    expect(valueOf(read(220, 1), 'response')).toBe(0xffff_ffd6);
  });

  it.each<[string, UssDraft, number]>([
    ['an unknown number', { address: 4, ak: 1, pnu: 999, pzd: [0, 0] }, 0],
    ['a value that cannot be changed', { address: 4, ak: 2, pnu: 12, pwe: [0, 1], pzd: [0, 0] }, 1],
    ['a value beyond its limits', { address: 4, ak: 2, pnu: 120, pwe: [0, 6001], pzd: [0, 0] }, 2],
    ['an index that does not exist', { address: 4, ak: 6, pnu: 140, ind: 0x0400, pzd: [0, 0] }, 3],
    ['an array task for a single value', { address: 4, ak: 6, pnu: 120, pzd: [0, 0] }, 4],
    ['a word task for a double word', { address: 4, ak: 2, pnu: 211, pwe: [0, 1], pzd: [0, 0] }, 5],
  ])('refuses %s', async (_, draft, code) => {
    const { send, said } = await k2();
    const result = send(draft);
    expect(result.outcome).toBe('exception');
    expect(said(result)).toMatchObject({ ak: 7, pwe: [0, code] });
  });

  it('while it stores, the older answer is repeated: told as unconfirmed, and the line asks on until the task is done', async () => {
    const { send, said, read, entries } = await k2();
    read(120);
    const before = entries.length;
    const task: UssDraft = { address: 4, ak: 14, pnu: 121, pwe: [0, 44], pzd: [0, 0] };
    const asked = readUss(hex(bytesToHex((encodeUss(task) as { value: Uint8Array }).value)), 4).message!;
    const result = send(task);
    expect(result.outcome).toBe('answered');
    expect(channelState(asked, said(result)).kind).toBe('done');
    const told = entries.slice(before).filter(({ direction }) => direction === 'received');
    expect(told.map(({ outcome }) => outcome)).toEqual(['unconfirmed', 'unconfirmed', 'answered']);
  });

  it('a task that is never done is given up, and told as unconfirmed', async () => {
    const { master, clock, results, yard, entries } = await k2();
    const drive = yard.drives.get(4);
    if (!(drive instanceof UssDrive)) throw new Error('no drive');
    // It goes on answering for a number that nobody asked for.
    const answer = drive.exchange.bind(drive);
    jest.spyOn(drive, 'exchange').mockImplementation((net) => {
      const said = answer(net);
      return said && [0x10, 0x63, ...said.slice(2)];
    });
    const before = entries.length;
    const built = encodeUss({ address: 4, ak: 1, pnu: 120, pzd: [0, 0] });
    if (!built.ok) throw new Error('no telegram');
    master.send(4, built.value, 'test', 1);
    clock.advanceBy(3_000_000);
    expect(results[results.length - 1]?.outcome).toBe('unconfirmed');
    const sent = entries.slice(before).filter(({ direction }) => direction === 'sent');
    expect(sent.length).toBeLessThan(15);
  });

  it('an access to a parameter, and the watch, carry what was last sent on purpose and not 0x0000', async () => {
    const { master, clock, index, protocol, send, entries } = await k2();
    const places = protocol.placesOf(index);
    send({ address: 4, pkwWords: 4, ak: 0, pnu: 0, pzd: [0x047e, 0] });
    send({ address: 4, pkwWords: 4, ak: 0, pnu: 0, pzd: [0x047f, 0x1000] });
    const status = index.byRole.get('status-word')!;
    master.setPoll(places.read(4, [status]).map((bytes) => ({ station: 4, bytes, everyUs: 100_000 })));
    const parameter = index.parameters.find(({ role }) => role === 'ramp-time')!;
    master.send(
      4,
      places.write(4, parameter, 55, () => undefined)!,
      'Registers',
      1,
    );
    const before = entries.length;
    clock.advanceBy(3_000_000);
    const words = entries
      .slice(before)
      .filter(({ direction }) => direction === 'sent')
      .map(({ bytes }) => readUss(bytes, 4).message?.pzd);
    expect(words.length).toBeGreaterThan(20);
    for (const pzd of words) expect(pzd).toEqual([0x047f, 0x1000]);
    // After Stop it is the stop word that goes on.
    master.stop(4);
    clock.advanceBy(20_000_000);
    const last = entries.filter(({ direction }) => direction === 'sent').pop();
    expect(readUss(last?.bytes ?? new Uint8Array(), 4).message?.pzd).toEqual([0x047e, 0]);
  });

  it('a change at the drive is reported until the master confirms it', async () => {
    const { send, said, yard } = await k2();
    const idle: UssDraft = { address: 4, pkwWords: 4, ak: 0, pnu: 0, pzd: [0, 0] };
    expect(said(send(idle))).toMatchObject({ ak: 0 });
    yard.drives.get(4)?.setHands({ selector: 'local', liveFault: 0 });
    expect(said(send(idle))).toMatchObject({ ak: 9, pnu: 110, spm: true, pwe: [0, 1] });
    expect(said(send({ ...idle, spm: true }))).toMatchObject({ ak: 0 });
  });
});

describe('telegrams', () => {
  it('a mirror telegram comes back unchanged, from this station only', async () => {
    const { send, results } = await k2();
    const result = send({ address: 4, mirror: true, pzd: [0x1234, 0x5678, 0x9abc] });
    expect(result.outcome).toBe('answered');
    expect(bytesToHex(result.reply ?? [])).toBe(bytesToHex(result.request.bytes));
    expect(send({ address: 5, mirror: true, pzd: [1, 2] }).outcome).toBe('timeout');
    expect(results).toHaveLength(2);
  });

  it('nobody answers a broadcast, and a telegram of another size gets no answer', async () => {
    const { send } = await k2();
    expect(send({ address: 0, broadcast: true, pkwWords: 4, ak: 0, pzd: [0, 0] }).outcome).toBe('sent');
    expect(send({ address: 4, pzd: [0, 0] }).outcome).toBe('timeout');
  });

  it('a sweep by mirror telegrams finds stations 0, 4 and 31', async () => {
    const line = await standinLine('dunlin', 'uss', [0, 4, 31], K2);
    const found = Array.from({ length: 32 }, (_, address) => {
      const built = encodeUss({ address, mirror: true, pzd: [0x5555] });
      return built.ok && line.ask(built.value, 400).outcome === 'answered' ? address : -1;
    }).filter((address) => address >= 0);
    expect(found).toEqual([0, 4, 31]);
  });

  it('Stop sends the ready word and believes the actual value', async () => {
    const { send, master, stops, clock, entries } = await k2();
    send({ address: 4, pkwWords: 4, ak: 0, pzd: [0x047f, 0x1000] });
    expect(master.snapshot().driven).toEqual([4]);
    master.stop(4);
    clock.advanceBy(3_000_000);
    expect(stops.at(-1)).toMatchObject({ over: true, outcomes: [{ station: 4, outcome: 'stopped' }] });
    const stopFrame = entries.find(({ cause, direction }) => cause === 'Stop' && direction === 'sent');
    expect(readUss(stopFrame!.bytes, 4).message).toMatchObject({ pzd: [0x047e, 0] });
  });
});
