import { exchangeOf } from '../../tests/harness/streams';
import { concatBytes } from '../core/bytes/concat';
import { bytesToHex } from '../core/bytes/hex';
import { RTU } from '../core/modbus/framing';
import type { ModbusMessage } from '../core/modbus/message';
import { seededRandom } from '../core/random/random';
import { encodeUss } from '../core/uss/encode';
import type { CaptureRow } from '../messages/frames';
import type { CapturePlan } from '../core/capture/capture-plan';
import { OpenCapture } from './open-capture';

const PLAN: CapturePlan = {
  form: 'text-log',
  protocol: 'modbus-rtu',
  ports: [],
  gapUs: 2_000,
  mapping: {
    separator: 'blanks',
    timeColumn: 1,
    timeUnit: 's',
    directionColumn: 2,
    requestMark: '>',
    bytesColumn: 3,
  },
};

const frame = (message: ModbusMessage, direction: 'request' | 'response'): Uint8Array => {
  const made = RTU.encode(message, direction);
  if (!made.ok) throw new Error(made.error[0]!.text);
  return made.value;
};
const opened = async (lines: readonly string[], plan = PLAN): Promise<OpenCapture> => {
  const capture = await OpenCapture.open(new Blob([lines.join('\n')]), plan, () => true);
  if (!capture) throw new Error('it was not opened');
  return capture;
};
const line = (s: number, mark: '>' | '<', bytes: Uint8Array): string =>
  `${s.toFixed(3)} ${mark} ${bytesToHex(bytes, ' ')}`;

/** A controller that writes two words and reads three, every 50 ms; each tenth read is not answered. */
function talk(cycles: number): readonly string[] {
  return Array.from({ length: cycles }, (_, i) => {
    const s = i * 0.05;
    const values = [0x047f, 1000 + i];
    const write = { unit: 3, fc: 16, address: 705, quantity: 2 };
    const read = { unit: 3, fc: 3, address: 385, quantity: 3 };
    return [
      line(s, '>', frame({ ...write, values }, 'request')),
      line(s + 0.01, '<', frame(write, 'response')),
      line(s + 0.02, '>', frame(read, 'request')),
      ...(i % 10 === 9
        ? []
        : [line(s + 0.03, '<', frame({ unit: 3, fc: 3, values: [0x0237, i % 16, 5] }, 'response'))]),
    ];
  }).flat();
}

it('finds what goes round, and what each of it carries', async () => {
  const capture = await opened(talk(100));
  const rounds = (await capture.rounds())!;
  expect(rounds).toMatchObject([
    { unit: 3, fc: 16, address: 705, quantity: 2, cycles: 100, lost: 0 },
    { unit: 3, fc: 3, address: 385, quantity: 3, cycles: 100, lost: 10 },
  ]);
  expect(rounds[0]!.meanUs).toBeCloseTo(50_000, 0);
  const out = await capture.watch(rounds[0]!, 'out', null, () => true);
  expect(Array.from(out!.bytes!)).toEqual([0x04, 0x7f, 0x04, 0x4b]);
  expect(out!.told.facts).toMatchObject({ cycles: 100, lost: 0, late: 0 });
  expect(out!.told.findings).toEqual(['word 1 is a sign of life: it counts by 1', 'never changed: word 0']);
  // A write brings nothing back.
  expect((await capture.watch(rounds[0]!, 'in', null, () => true))!.bytes).toBeNull();
  const back = await capture.watch(rounds[1]!, 'in', null, () => true);
  expect(back!.told.facts).toMatchObject({ cycles: 100, lost: 10 });
  expect(back!.told.items.map(({ name, least, most }) => [name, least, most])).toEqual([
    ['word 0', 0x0237, 0x0237],
    ['word 1', 0, 15],
    ['word 2', 5, 5],
  ]);
});

it('reads it by the items of a layout, and gives up when it is told to', async () => {
  const capture = await opened(talk(40));
  const [round] = (await capture.rounds())!;
  const layout = { items: [{ name: 'reference', type: 'int16' as const, byte: 2 }], order: 'big' as const };
  const told = await capture.watch(round!, 'out', layout, () => true);
  expect(told!.told.items).toMatchObject([{ name: 'reference', least: 1000, most: 1039 }]);
  expect(await capture.watch(round!, 'out', layout, () => false)).toBeNull();
});

it('of USS it is the process data, both ways', async () => {
  const telegram = (pzd: readonly number[]): Uint8Array => {
    const made = encodeUss({ address: 4, pkwWords: 0, pzd: [...pzd] });
    if (!made.ok) throw new Error(made.error[0]!.text);
    return made.value;
  };
  const lines = Array.from({ length: 20 }, (_, i) => [
    line(i * 0.1, '>', telegram([0x047f, 2 * i])),
    line(i * 0.1 + 0.02, '<', telegram([0x0f37, i])),
  ]).flat();
  const capture = await opened(lines, { ...PLAN, protocol: 'uss' });
  const [round] = (await capture.rounds())!;
  expect(round).toMatchObject({ cycles: 20, lost: 0 });
  const [out, back] = await Promise.all(
    (['out', 'in'] as const).map((way) => capture.watch(round!, way, null, () => true)),
  );
  expect(out!.told.items[1]).toMatchObject({ least: 0, most: 38 });
  expect(back!.told.items[1]).toMatchObject({ least: 0, most: 19 });
});

it('what goes round in a long capture is looked for in parts, and given up when another one is opened', async () => {
  const capture = await opened(talk(20_000));
  let asked = 0;
  expect(await capture.rounds(() => ++asked < 1)).toBeNull();
  expect(asked).toBe(1);
  expect(await capture.rounds(() => Promise.resolve(true))).toMatchObject([
    { fc: 16, cycles: 20_000 },
    { fc: 3, cycles: 20_000, lost: 2000 },
  ]);
});

it('what goes round is looked for behind a filter, however that ends', async () => {
  const capture = await opened(talk(20_000));
  for (const end of ['over', 'ended', 'thrown'] as const) {
    const done: string[] = [];
    const filtering = capture
      .filter({}, '0x', (_places, looked, over) => {
        if (end === 'thrown' && looked > 40_000) throw new Error('no more');
        return over || end !== 'ended' || looked < 40_000;
      })
      .catch(() => undefined)
      .then(() => done.push('filter'));
    const found = await capture.rounds();
    done.push('rounds');
    await filtering;
    expect([end, done]).toEqual([end, ['filter', 'rounds']]);
    expect(found).toHaveLength(2);
  }
});

it('reading that waits goes on where it was, and is ended while it waits', async () => {
  const file = new Blob([talk(40_000).join('\n')]);
  expect(file.size).toBeGreaterThan(2 << 21);
  const whole = await OpenCapture.open(file, PLAN, () => true);
  for (const goesOn of [true, false]) {
    const read: number[] = [];
    let release = (_goesOn: boolean): void => undefined;
    const opening = OpenCapture.open(file, PLAN, (bytes) => {
      read.push(bytes);
      return read.length === 2 ? new Promise((resolve) => (release = resolve)) : true;
    });
    while (read.length < 2) await new Promise((resolve) => setTimeout(resolve, 1));
    await new Promise((resolve) => setTimeout(resolve, 20));
    expect(read).toEqual([1 << 21, 2 << 21]);
    release(goesOn);
    expect((await opening)?.capture.statistics).toEqual(goesOn ? whole?.capture.statistics : undefined);
  }
});

it('rows of a long capture of frames hardly alike are those of a short one, found by station, register and words', async () => {
  const COPIES = 11;
  const random = seededRandom(24);
  const part = new Blob([concatBytes(...Array.from({ length: 40_000 }, () => exchangeOf(random)).flat()) as BlobPart]);
  const plan: CapturePlan = { form: 'binary', protocol: 'modbus-rtu', ports: [], gapUs: 0 };
  const [short, long] = await Promise.all(
    [[part], Array.from({ length: COPIES }, () => part)].map((parts) =>
      OpenCapture.open(new Blob(parts), plan, () => true),
    ),
  );
  const { count } = short!.capture.index;
  const last = (COPIES - 1) * count;
  expect([...long!.capture.index.outlines()].at(-4)!.block.isWhole).toBe(false);
  const places = Uint32Array.of(0, 1, 4711, 4712);
  const rows: readonly CaptureRow[] = await long!.rows(places.map((place) => last + place));
  expect(rows.map((row) => ({ ...row, place: row.place - last }))).toEqual(await short!.rows(places));
  const found = async (capture: OpenCapture, text: string): Promise<number> => {
    let told = NaN;
    await capture.filter({ unit: 5, fc: 6 }, text, (places, _looked, over) => {
      if (over) told = places.count;
      return true;
    });
    return told;
  };
  for (const text of ['', 'write']) expect(await found(long!, text)).toBe(COPIES * (await found(short!, text)));
  expect(await found(short!, '')).toBeGreaterThan(0);
});
