import { leavesOf, type Field } from '../src/core/bytes/field';
import { bytesToHex } from '../src/core/bytes/hex';
import { parseBytes } from '../src/core/bytes/notation';
import { readPasted } from '../src/core/bytes/pasted';
import { readingsOfWord } from '../src/core/bytes/whole';
import { captureReader } from '../src/core/capture/read-capture';
import type { CapturePlan } from '../src/core/capture/capture-plan';
import { encodeDialect } from '../src/core/dialect/write';
import { readDialect } from '../src/core/dialect/read';
import type { Direction } from '../src/core/direction';
import type { Fault } from '../src/core/fault';
import { loadJob, readJobText } from '../src/core/job/load-job';
import { MODBUS_FRAMINGS, type ModbusFraming } from '../src/core/modbus/framing';
import { pick, type Random } from '../src/core/random/random';
import { TABLE_NAMES, type ModbusTable } from '../src/core/registers/tables';
import { notationsOf, readAddress } from '../src/core/registers/notation';
import { compare, parseRational } from '../src/core/scaling/rational';
import { toRaw, toValue } from '../src/core/scaling/scale';
import type { ScalingChain } from '../src/core/scaling/chain';
import { loadSheet } from '../src/core/sheet/load-sheet';
import { SHIPPED_FILES } from '../src/core/shipped/files';
import { anatomyUss } from '../src/core/uss/anatomy';
import { encodeUss } from '../src/core/uss/encode';
import { readUss } from '../src/core/uss/telegram';
import { readBitTable } from '../src/core/words/bit-table';

import { foundLaws } from './found';
import { junk, spoiled, text, type Law } from './inputs';

const direction = (random: Random): Direction => (random() < 0.5 ? 'request' : 'response');

const outside = (faults: readonly Pick<Fault, 'start' | 'end'>[], size: number): string =>
  faults.some(({ start, end }) => !(start >= 0 && start <= end && end <= size)) ? 'a fault lies outside the input' : '';

/** Leaves cover every byte once, in order. */
function uncovered(fields: readonly Field[], size: number): string {
  let at = 0;
  for (const { start, end } of leavesOf(fields)) {
    if (start !== at || end < start) return `the fields leave byte ${at} out, or tell it twice`;
    at = end;
  }
  return at === size ? '' : `the fields end at ${at} of ${size} bytes`;
}

const words = (random: Random, most: number): number[] =>
  Array.from({ length: 1 + pick(random, most) }, () => pick(random, 65536));

/** A good request or response of the functions that carry most of the work. */
function message(random: Random, way: Direction) {
  const fc = [3, 4, 6, 15, 16, 22, 23][pick(random, 7)] as number;
  const [unit, address] = [1 + pick(random, 247), pick(random, 60_000)];
  const values = words(random, 20);
  const coils = Array.from({ length: 1 + pick(random, 40) }, () => pick(random, 2));
  if (way === 'response' && fc <= 4) return { unit, fc, values };
  if (way === 'response' && fc === 23) return { unit, fc, values };
  if (way === 'response' && fc > 6 && fc < 22) return { unit, fc, address, quantity: 1 + pick(random, 100) };
  if (fc <= 4) return { unit, fc, address, quantity: 1 + pick(random, 125) };
  if (fc === 6) return { unit, fc, address, values: values.slice(0, 1) };
  if (fc === 15) return { unit, fc, address, quantity: coils.length, coils };
  if (fc === 16) return { unit, fc, address, quantity: values.length, values };
  if (fc === 22) return { unit, fc, address, andMask: pick(random, 65536), orMask: pick(random, 65536) };
  return {
    unit,
    fc,
    readAddress: address,
    readQuantity: 1,
    writeAddress: address,
    writeQuantity: values.length,
    values,
  };
}

function modbusLaws(framing: ModbusFraming): readonly Law[] {
  const made = (
    random: Random,
  ): { readonly way: Direction; readonly said: ReturnType<typeof message>; readonly bytes: Uint8Array } => {
    const way = direction(random);
    const said = message(random, way);
    const built = framing.encode(said, way);
    if (!built.ok) throw new Error(`${JSON.stringify(said)} is refused: ${built.error[0]?.text}`);
    return { way, said, bytes: built.value };
  };
  return [
    {
      name: `${framing.name}: any bytes are read, and ranges lie inside`,
      broken: (random) => {
        const bytes = random() < 0.3 ? junk(random, 300) : spoiled(random, made(random).bytes);
        const reading = framing.read(bytes, direction(random));
        return outside(reading.faults, bytes.length) || uncovered(framing.anatomy(bytes, reading), bytes.length);
      },
    },
    {
      name: `${framing.name}: what was built is read back`,
      broken: (random) => {
        const { way, said, bytes } = made(random);
        const { message: back, faults } = framing.read(bytes, way);
        const rest = Object.fromEntries(Object.entries(back ?? {}).filter(([key]) => key !== 'transactionId'));
        return faults.length === 0 && JSON.stringify(sorted(rest)) === JSON.stringify(sorted(said))
          ? ''
          : `${JSON.stringify(said)} came back as ${JSON.stringify(rest)}`;
      },
    },
  ];
}

const sorted = (value: object): object =>
  Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)));

const [RTU] = MODBUS_FRAMINGS;

/** CRC-16 finds every burst of 16 bits and fewer (Peterson and Brown, Cyclic Codes for Error Detection, 1961, theorem 6). */
const damage: Law = {
  name: 'Modbus RTU: no burst of damage goes unnoticed',
  broken: (random) => {
    const way = direction(random);
    const built = (RTU as ModbusFraming).encode(message(random, way), way);
    if (!built.ok) return built.error[0]?.text ?? 'not built';
    const bytes = built.value.slice();
    const first = pick(random, bytes.length * 8);
    const length = 1 + pick(random, Math.min(16, bytes.length * 8 - first));
    let turned = 0;
    for (let bit = first; bit < first + length; bit++) {
      if (bit !== first && random() < 0.5) continue;
      turned++;
      bytes[bit >> 3] = (bytes[bit >> 3] as number) ^ (1 << (bit & 7));
    }
    const { faults, shape } = (RTU as ModbusFraming).read(bytes, way);
    return faults.length > 0 || !shape.checkGood
      ? ''
      : `${turned} bits from bit ${first} of ${bytesToHex(bytes)} are not seen`;
  },
};

const ussMessage = (random: Random) => {
  const pkwWords = [0, 3, 4, 3 + pick(random, 20)][pick(random, 4)] as number;
  return {
    address: pick(random, 32),
    mirror: random() < 0.1,
    broadcast: random() < 0.1,
    pkwWords,
    ...(pkwWords === 0
      ? {}
      : { ak: pick(random, 16), spm: random() < 0.1, pnu: pick(random, 2048), ind: pick(random, 65536) }),
    ...(pkwWords === 0 ? {} : { pwe: Array.from({ length: pkwWords - 2 }, () => pick(random, 65536)) }),
    pzd: Array.from({ length: pick(random, 17) }, () => pick(random, 65536)),
  };
};

const uss: readonly Law[] = [
  {
    name: 'USS: any bytes are read, and ranges lie inside',
    broken: (random) => {
      const built = encodeUss(ussMessage(random));
      const bytes = random() < 0.3 || !built.ok ? junk(random, 300) : spoiled(random, built.value);
      const pkw = [undefined, 0, 3, 4, 9][pick(random, 5)];
      const { faults } = readUss(bytes, pkw);
      return outside(faults, bytes.length) || uncovered(anatomyUss(bytes, direction(random), pkw), bytes.length);
    },
  },
  {
    name: 'USS: what was built is read back, and one changed byte is seen',
    broken: (random) => {
      const said = ussMessage(random);
      const built = encodeUss(said);
      if (!built.ok) return built.error[0]?.text ?? 'not built';
      const { message: back, faults } = readUss(built.value, said.pkwWords);
      if (faults.length > 0) return `${JSON.stringify(said)}: ${faults[0]?.text}`;
      const lost = Object.entries(said).find(
        ([key, value]) => JSON.stringify(back?.[key as keyof typeof back]) !== JSON.stringify(value),
      );
      if (lost) return `${lost[0]} ${JSON.stringify(lost[1])} came back otherwise`;
      const bad = built.value.slice();
      const at = pick(random, bad.length);
      bad[at] = (bad[at] as number) ^ (1 + pick(random, 255));
      return readUss(bad, said.pkwWords).faults.length > 0 ? '' : `byte ${at} of ${bytesToHex(bad)} is not seen`;
    },
  },
];

const SHEETS = Object.values(SHIPPED_FILES.sheets).flatMap((file) => {
  const loaded = loadSheet(file);
  return loaded.ok ? [loaded.value] : [];
});
const DIALECTS = SHEETS.flatMap(({ dialect }) => (dialect ? [dialect] : []));

const dialects: Law = {
  name: 'Dialects: any line is read, and ranges lie inside',
  broken: (random) => {
    const dialect = DIALECTS[pick(random, DIALECTS.length)];
    if (!dialect) return 'no dialect ships';
    const command = dialect.commands[pick(random, dialect.commands.length)];
    const built = encodeDialect(
      dialect,
      {
        kind: 'read',
        ...(command ? { command: command.id } : {}),
        ...(dialect.station ? { station: dialect.station.min } : {}),
      },
      'request',
    );
    const bytes = random() < 0.3 || !built.ok ? junk(random, 80) : spoiled(random, built.value);
    const { faults, fields } = readDialect(dialect, bytes, direction(random));
    return outside(faults, bytes.length) || uncovered(fields, bytes.length);
  },
};

const notations: readonly Law[] = [
  {
    name: 'Bytes as people write them: any text is read, and faults lie inside',
    broken: (random) => {
      const typed = text(random, 60);
      for (const read of [parseBytes(typed), readPasted(typed)])
        if (!read.ok) {
          const wrong = outside([read.error], typed.length);
          if (wrong !== '') return `${JSON.stringify(typed)}: ${wrong}`;
        }
      return '';
    },
  },
  {
    name: 'Numbers and addresses: any text is read, and what is read is in range',
    broken: (random) => {
      const typed = text(random, 12);
      const places = readAddress(typed);
      if (places.some(({ address }) => !Number.isInteger(address) || address < 0 || address > 65535))
        return `${JSON.stringify(typed)} names a place that does not exist`;
      return readingsOfWord(typed, 16).every(({ value }) => Number.isSafeInteger(value))
        ? ''
        : `${JSON.stringify(typed)} is a number that is none`;
    },
  },
  {
    name: 'Addresses: every notation of a place is read back as it',
    broken: (random) => {
      const table = (Object.keys(TABLE_NAMES) as ModbusTable[])[pick(random, 4)] as ModbusTable;
      const address = pick(random, 65536);
      const { reference5, reference6, decimal, hex } = notationsOf(table, address);
      const lost = [reference5, reference6, decimal, hex].find(
        (one) => one !== null && !readAddress(one, table).some((reading) => reading.address === address),
      );
      return lost === undefined ? '' : `${lost} is not read as ${table} ${address}`;
    },
  },
  {
    name: 'Bit tables: any text is read, and faults lie inside',
    broken: (random) => {
      const typed = text(random, 200);
      return outside(readBitTable(typed, 16).faults, typed.length);
    },
  },
];

const number = (random: Random): string =>
  ['7', '-3', '0.1', '1/3', '50', '16384', '0', '1e9', '-0.025', `${pick(random, 100_000)}/${1 + pick(random, 999)}`][
    pick(random, 10)
  ] as string;

const scaling: Law = {
  name: 'Scaling: a value that fits comes back within half a count',
  broken: (random) => {
    const chain: ScalingChain = {
      unit: 'Hz',
      steps: [
        { kind: 'factor', by: `${1 + pick(random, 500)}/${1 + pick(random, 500)}` },
        ...(random() < 0.5 ? [{ kind: 'offset', add: number(random) } as const] : []),
        { kind: 'full-scale', value: `${1 + pick(random, 400)}`, raw: `${1 + pick(random, 60_000)}` },
      ],
      rounding: 'halfEven',
      word: { bits: random() < 0.5 ? 16 : 32, signed: random() < 0.5 },
    };
    const value = parseRational(number(random));
    if (!value.ok) return '';
    const there = toRaw(chain, value.value);
    if (!there.ok || there.value.faults.length > 0) return '';
    const back = toValue(chain, BigInt(there.value.wire));
    if (!back.ok || back.value.raw !== there.value.raw) return `${JSON.stringify(chain)} loses ${there.value.raw}`;
    const { num, den } = there.value.error;
    return compare({ num: num < 0n ? -num : num, den }, { num: 1n, den: 2n }) <= 0
      ? ''
      : `${num}/${den} counts are lost`;
  },
};

/** A file in which one value, somewhere, is another. */
function bent(random: Random, value: unknown): unknown {
  if (random() < 0.05 || typeof value !== 'object' || value === null)
    return [null, -1, 1e9, '', 'x', [], {}, true, '__proto__', NaN][pick(random, 10)];
  const copy = (Array.isArray(value) ? [...(value as unknown[])] : { ...value }) as Record<string, unknown>;
  const keys = Object.keys(copy);
  const key = keys[pick(random, keys.length)];
  if (key !== undefined) copy[key] = bent(random, copy[key]);
  return copy;
}

const files: Law = {
  name: 'Files: a bent sheet or job is read or refused with a sentence',
  broken: (random) => {
    const names = Object.keys(SHIPPED_FILES.sheets);
    const whole = SHIPPED_FILES.sheets[names[pick(random, names.length)] ?? ''] as {
      readonly parameters?: readonly object[];
    };
    // Its long tail says the same again and again.
    const sheet = { ...whole, ...(whole.parameters ? { parameters: whole.parameters.slice(0, 30) } : {}) };
    const read = random() < 0.5 ? loadSheet(bent(random, sheet)) : loadJob(bent(random, SHIPPED_FILES.demo));
    if (!read.ok && read.error.some((fault) => fault.text === '')) return 'a fault says nothing';
    const cut = readJobText(text(random, 40));
    return cut.ok ? 'a text of noise is a job' : '';
  },
};

const PLANS: readonly CapturePlan[] = [
  { form: 'binary', protocol: 'modbus-rtu', ports: [502], gapUs: 4000 },
  { form: 'binary', protocol: 'modbus-ascii', ports: [502], gapUs: 4000 },
  { form: 'binary', protocol: 'modbus-tcp', ports: [502], gapUs: 4000 },
  { form: 'binary', protocol: 'uss', ports: [502], gapUs: 4000 },
  { form: 'packets', protocol: 'modbus-rtu', ports: [502], gapUs: 4000 },
  { form: 'hex-dump', protocol: 'modbus-rtu', ports: [502], gapUs: 4000 },
];

const captures: Law = {
  name: 'Captures: any file is read to its end, and a stream’s entries cover it',
  broken: (random) => {
    const plan = PLANS[pick(random, PLANS.length)] as CapturePlan;
    const reader = captureReader(plan, () => undefined);
    const built = (RTU as ModbusFraming).encode(message(random, 'request'), 'request');
    const bytes = random() < 0.5 || !built.ok ? junk(random, 400) : spoiled(random, built.value);
    for (let at = 0; at < bytes.length;) {
      const size = 1 + pick(random, 100);
      reader.push(bytes.slice(at, at + size));
      at += size;
    }
    const { index } = reader.end();
    if (plan.form !== 'binary') return '';
    let covered = 0;
    for (let i = 0; i < index.count; i++) covered += index.at(i)?.length ?? 0;
    return covered === bytes.length ? '' : `${covered} of ${bytes.length} bytes are in an entry`;
  },
};

export const LAWS: readonly Law[] = [
  ...MODBUS_FRAMINGS.flatMap(modbusLaws),
  damage,
  ...uss,
  dialects,
  ...notations,
  scaling,
  files,
  captures,
  ...foundLaws,
];
