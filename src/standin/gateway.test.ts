import { demoJob, shippedSheets } from '../../tests/harness/shipped';
import { readImage } from '../core/process-image/image';
import { likelyReadings, knownItem } from '../core/process-image/likely';
import { remarksOn } from '../core/process-image/own-block';
import { indexSheet } from '../core/sheet/index-sheet';
import { VirtualClock } from '../core/time/clock';
import { Cia402Drive } from './cia402-drive';
import { Gateway, type Behind } from './gateway';
import { Inverter } from './inverter';
import { serveFunction } from './rtu-server';

const END = { station: 1, settings: { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 } } as const;

function gateway() {
  const clock = new VirtualClock();
  const indexOf = (slug: string) => indexSheet(shippedSheets().find((sheet) => sheet.slug === slug)!);
  const [tern, curlew] = [indexOf('tern'), indexOf('curlew')];
  const fan: Behind = { index: tern, bank: new Inverter(tern, clock, {}, END, () => undefined) };
  const lift: Behind = {
    index: curlew,
    bank: new Cia402Drive(curlew, clock, { '80': 20, '87': -970_752 }, END, () => undefined),
  };
  const made = new Gateway(
    [
      { from: fan, role: 'status-word', bytes: 2 },
      { from: lift, role: 'actual-position', bytes: 4, isSwapped: true },
      { from: lift, role: 'mode-display', bytes: 1 },
    ],
    12,
  );
  return { clock, fan, lift, ask: (...pdu: number[]): number[] => serveFunction(pdu, made) };
}

it('gathers values of its drives into one block, a position with its words turned round, and fills the slot with 0', () => {
  const { clock, fan, lift, ask } = gateway();
  clock.advanceBy(1_000_000);
  const status = fan.bank.read(addressOf(fan, 'status-word'));
  const place = addressOf(lift, 'actual-position');
  const [upper, lower] = [lift.bank.read(place)!, lift.bank.read(place + 1)!];
  const mode = lift.bank.read(addressOf(lift, 'mode-display'))! & 255;
  const bytes = [status!, lower, upper].flatMap((word) => [word >> 8, word & 255]);
  expect(ask(4, 0, 0, 0, 6)).toEqual([4, 12, ...bytes, mode, 0, 0, 0, 0, 0]);
});

const addressOf = ({ index }: Behind, role: 'status-word' | 'actual-position' | 'mode-display'): number => {
  const place = index.byRole.get(role)?.place;
  if (place?.kind !== 'register') throw new Error(`${role} is in no register`);
  return place.address;
};

/** Exception codes of the Modbus Application Protocol V1.1b3, section 7: 1 illegal function, 2 illegal data address. */
it('tells nothing beyond its slot, has no other table, and takes nothing', () => {
  const { ask } = gateway();
  expect(ask(4, 0, 5, 0, 2)).toEqual([0x84, 2]);
  expect(ask(3, 0, 0, 0, 1)).toEqual([0x83, 2]);
  expect(ask(6, 0, 0, 0, 1)).toEqual([0x86, 1]);
  expect(ask(1, 0, 0, 0, 1)).toEqual([0x81, 1]);
});

it('the demo’s block of the gateway is right but for the words of the place, which one known value finds', () => {
  const [block] = demoJob().blocks ?? [];
  expect(block).toBeDefined();
  if (!block) return;
  expect(remarksOn(block).filter(({ kind }) => kind === 'wrong')).toEqual([]);
  expect([block.size, block.slot]).toEqual([19, 24]);
  // 970752 is 000E D000; the gateway gives D000 000E.
  const bytes = Uint8Array.from([
    ...new Array<number>(10).fill(0),
    0xd0,
    0x00,
    0x00,
    0x0e,
    ...new Array<number>(10).fill(0),
  ]);
  const item = block.items.find(({ name }) => name === 'lift_place')!;
  const known = knownItem(null, item, '970752');
  if (!known.ok) throw new Error(known.error);
  const [best] = likelyReadings(
    null,
    { block, order: block.order, skip: 0 },
    null,
    bytes,
    new Map([[item.name, known.value]]),
  );
  expect(best?.mistake).toBe('the two words of each value of 32 bits are swapped');
  expect(readImage(block.items, block.size, best!.order, bytes.subarray(0, 19)).values.get('lift_place')).toBe(
    '970752',
  );
});
