/** @jest-environment node */
import { diagnose } from '../src/core/doctor/diagnose';
import type { LineContext } from '../src/core/doctor/observe';
import type { SerialSettings } from '../src/core/line/settings';
import type { Trouble } from '../src/core/line/trouble';
import { framingOf, RTU, TCP } from '../src/core/modbus/framing';
import { modbusProtocol } from '../src/core/protocol/modbus-protocol';
import { indexSheet } from '../src/core/sheet/index-sheet';
import type { TraceEntry } from '../src/core/trace/entry';
import type { EntryDraft } from '../src/link/exchanger';
import { LineMaster } from '../src/link/line-master';
import { ModbusControl } from '../src/link/modbus-control';
import { modbusKind } from '../src/link/line-kind';
import { TcpPort } from '../src/link/tcp-port';
import { CALM, type Disturbance } from '../src/standin/disturbance';
import { shippedSheets } from './harness/shipped';
import { NetworkYard, YARD_PORTS } from '../src/yard/network-yard';
import { bridgePair, realClock, until } from './harness/bridge';
import { K1, k1 } from './harness/line';
import { registerOf, ternIndex } from './harness/sheets';

const STATUS_3 = '03 03 0182 0001';
const STATUS_7 = '07 03 0182 0001';

type Line = Awaited<ReturnType<typeof k1>>;

const entriesOf = (drafts: readonly EntryDraft[]): readonly TraceEntry[] =>
  drafts.map((draft, sequence) => ({ ...draft, line: 'K1', session: 's', sequence }));

const contextOf = (line: Line, end: SerialSettings, station = 3): LineContext => ({
  line: 'K1',
  session: 's',
  station,
  index: ternIndex(),
  protocol: modbusProtocol(RTU),
  medium: 'serial',
  settings: end,
  open: line.master.snapshot().open,
  troubleKind: null,
  trouble: '',
  nowUs: line.clock.now(),
});

interface Condition {
  readonly name: string;
  /** The causes that are really there; two for a pair of faults. */
  readonly truth: readonly string[];
  readonly end?: SerialSettings;
  /** The last settings of this end, where the story changes them. */
  readonly endAtLast?: SerialSettings;
  readonly station?: number;
  readonly story: (line: Line) => void;
}

const disturbed =
  (disturbance: Partial<Disturbance>, ...asks: readonly string[]) =>
  (line: Line): void => {
    line.yard.disturb({ ...CALM, ...disturbance });
    line.ms(300);
    for (const hex of asks) line.ask(hex, undefined, 700);
  };

const ask = (line: Line, hex: string, times = 1): void => {
  for (let i = 0; i < times; i++) line.ask(hex, undefined, 700);
};

const RATE_9600: SerialSettings = { ...K1, rate: 9600 };
const ODD: SerialSettings = { ...K1, parity: 'O' };
const BOTH = [STATUS_3, STATUS_7];
const TIMES = <T>(count: number, items: readonly T[]): T[] => Array.from({ length: count }, () => items).flat();

const SERIAL: readonly Condition[] = [
  {
    name: 'this drive lost its power, the other one answers',
    truth: ['drive-off'],
    story: (line) => {
      ask(line, STATUS_3);
      line.drive(3).powerOff();
      ask(line, STATUS_3, 2);
      ask(line, STATUS_7);
    },
  },
  {
    name: 'a station number that nobody has',
    truth: ['wrong-station'],
    station: 12,
    story: (line) => {
      ask(line, '0C 03 0182 0001', 2);
      ask(line, STATUS_3);
    },
  },
  {
    name: 'the plug fell out after it had worked',
    truth: ['line-dead'],
    story: (line) => {
      ask(line, STATUS_3);
      disturbed({ open: 'everywhere' }, STATUS_3, STATUS_3, STATUS_7)(line);
    },
  },
  {
    name: 'the rate differs from the drive’s, nothing comes back',
    truth: ['wrong-rate'],
    end: RATE_9600,
    story: (line) => ask(line, STATUS_3, 2),
  },
  {
    name: 'the parity differs from the drive’s, nothing comes back',
    truth: ['wrong-parity'],
    end: ODD,
    story: (line) => ask(line, STATUS_3, 2),
  },
  {
    name: 'this end’s rate was changed while it worked',
    truth: ['end-changed'],
    endAtLast: RATE_9600,
    story: (line) => {
      ask(line, STATUS_3);
      line.master.reconfigure(RATE_9600);
      ask(line, STATUS_3, 2);
    },
  },
  {
    name: 'the drive was given a new rate, kept it and restarted',
    truth: ['took-new-settings'],
    story: (line) => {
      ask(line, '03 06 0142 0005');
      ask(line, '03 06 02C2 0001');
      const keep = registerOf(line.index.byRole.get('keep'));
      ask(line, `03 06 ${keep.toString(16).padStart(4, '0')} 0001`);
      ask(line, '03 06 0146 0001');
      line.ms(4000);
      ask(line, STATUS_3, 2);
    },
  },
  {
    name: 'the drive was given a new rate and not restarted, this end followed at once',
    truth: ['waits-for-restart'],
    endAtLast: RATE_9600,
    story: (line) => {
      ask(line, STATUS_3);
      ask(line, '03 06 0142 0005');
      line.master.reconfigure(RATE_9600);
      ask(line, STATUS_3, 2);
    },
  },
  {
    name: 'a restart that was asked for',
    truth: ['restarting'],
    story: (line) => {
      ask(line, STATUS_3);
      ask(line, '03 06 0146 0001');
      line.ask(STATUS_3, undefined, 400);
    },
  },
  { name: 'conductors swapped', truth: ['swapped'], story: disturbed({ swapped: true }, STATUS_3, STATUS_3) },
  {
    name: 'junk of another master at half this end’s rate',
    truth: ['wrong-rate'],
    end: { ...K1, rate: 38400 },
    story: disturbed({ otherMaster: true }, STATUS_3),
  },
  {
    name: 'characters of another master with the other parity',
    truth: ['wrong-parity'],
    end: ODD,
    story: disturbed({ otherMaster: true }, STATUS_3),
  },
  { name: 'local echo', truth: ['echo'], story: disturbed({ echo: true }, STATUS_3, STATUS_3) },
  {
    name: 'another master asks the same drives',
    truth: ['other-master'],
    story: (line) => {
      line.yard.disturb({ ...CALM, otherMaster: true });
      line.ms(900);
      ask(line, STATUS_3);
    },
  },
  {
    name: 'two drives with one number',
    truth: ['twin'],
    story: disturbed({ twin: 3 }, ...TIMES(6, [STATUS_3]), STATUS_7, STATUS_7),
  },
  { name: 'a noisy cable', truth: ['noise'], story: disturbed({ flipBits: 0.05 }, ...TIMES(12, BOTH)) },
  {
    name: 'answers later than the time-out',
    truth: ['late'],
    story: disturbed({ delayFromUs: 70_000, delayReplyUs: 90_000 }, STATUS_3, STATUS_3, STATUS_3),
  },
  {
    name: 'another station answers',
    truth: ['other-station-answers'],
    story: disturbed({ foreignReply: 1 }, STATUS_3, STATUS_3),
  },
  {
    name: 'the adapter turns around too late',
    truth: ['turnaround'],
    story: disturbed({ lateTurnaround: true }, STATUS_3, STATUS_3),
  },
  {
    name: 'a function that the drive does not have',
    truth: ['function-unknown'],
    story: (line) => ask(line, '03 01 0000 0008'),
  },
  {
    name: 'a register that does not exist',
    truth: ['register-missing'],
    story: (line) => ask(line, '03 03 0FFF 0001'),
  },
  { name: 'a value beyond its limit', truth: ['value-refused'], story: (line) => ask(line, '03 06 0144 7FFF') },
  {
    name: 'a setting that waits for standstill',
    truth: ['not-now'],
    story: (line) => {
      ask(line, '03 06 02C3 0F45');
      ask(line, '03 06 02C1 0005');
      ask(line, '03 06 02C1 000D');
      ask(line, '03 06 0142 0005');
    },
  },
  {
    name: 'keypad in command: it confirms run and stands',
    truth: ['run-not-taken'],
    story: (line) => {
      ask(line, '03 06 0081 0000');
      ask(line, '03 06 02C1 0005');
      ask(line, '03 06 02C1 000D');
      line.ms(1500);
      ask(line, STATUS_3);
    },
  },
  // Pairs of faults.
  {
    name: 'a wrong number on a noisy cable',
    truth: ['wrong-station', 'noise'],
    station: 12,
    story: disturbed({ flipBits: 0.04 }, '0C 03 0182 0001', ...TIMES(14, BOTH), '0C 03 0182 0001'),
  },
  {
    name: 'echo, and the drive has no power',
    truth: ['echo', 'drive-off'],
    story: (line) => {
      ask(line, STATUS_3);
      line.drive(3).powerOff();
      disturbed({ echo: true }, STATUS_3, STATUS_3, STATUS_7)(line);
    },
  },
  {
    name: 'another master, and answers later than the time-out',
    truth: ['other-master', 'late'],
    story: (line) => {
      line.yard.disturb({ ...CALM, otherMaster: true, delayFromUs: 70_000, delayReplyUs: 80_000 });
      line.ms(900);
      ask(line, STATUS_3, 5);
    },
  },
  {
    name: 'a missing register behind a noisy cable',
    truth: ['register-missing', 'noise'],
    story: disturbed({ flipBits: 0.04 }, ...TIMES(6, ['03 03 0FFF 0001', STATUS_3, STATUS_7])),
  },
  {
    name: 'a refused value, and another station that answers in between',
    truth: ['value-refused', 'other-station-answers'],
    story: (line) => {
      ask(line, '03 06 0144 7FFF');
      disturbed({ foreignReply: 1 }, STATUS_3)(line);
    },
  },
];

interface Verdict {
  readonly name: string;
  readonly truth: readonly string[];
  readonly told: readonly string[];
}

async function serialVerdict({ name, truth, end = K1, endAtLast, station = 3, story }: Condition): Promise<Verdict> {
  const line = await k1({ end, seed: 5 });
  story(line);
  const told = diagnose(entriesOf(line.entries), contextOf(line, endAtLast ?? end, station)).map(({ id }) => id);
  return { name, truth, told };
}

/** Filled when the yard stands: its ports may be others where these are taken. */
const PORTS = { K1: YARD_PORTS.K1 + 200, E1: YARD_PORTS.E1 + 200, E2: YARD_PORTS.E2 + 200, D1: YARD_PORTS.D1 + 200 };

/** A TCP line to one of the yard's devices, over real sockets. */
async function tcpLine(port: number, protocol: 'modbus-tcp' | 'modbus-rtu', host = '127.0.0.1') {
  const clock = realClock();
  const { client, leave } = bridgePair({ ownPorts: [4380] });
  const framing = framingOf(protocol);
  const index = indexSheet(
    shippedSheets().find(({ slug }) => slug === (protocol === 'modbus-tcp' ? 'curlew' : 'tern'))!,
  );
  const drafts: EntryDraft[] = [];
  let why: Trouble | null = null;
  let exchanges = 0;
  const master = new LineMaster(
    clock,
    new TcpPort(client, clock, host, port, protocol === 'modbus-rtu' ? K1 : null),
    modbusKind(framing),
    [new ModbusControl(1, index, framing)],
    {
      entry: (entry) => drafts.push(entry),
      exchange: () => exchanges++,
      changed: () => undefined,
      procedure: () => undefined,
      stop: () => undefined,
      closed: (trouble) => (why = trouble),
    },
  );
  why = await master.open();
  return {
    async ask(station = 1, address = 2089): Promise<void> {
      const before = exchanges;
      const built = framing.encode({ unit: station, fc: 3, address, quantity: 1 }, 'request');
      clock.catchUp();
      master.send(station, built.ok ? built.value : new Uint8Array(0), 'test', 1);
      await until(() => exchanges > before, 5000);
    },
    lost: () => until(() => why !== null),
    /** Something came, be it after the time-out: a computer that others share too is late at times. */
    heard: () => until(() => drafts.some(({ direction }) => direction === 'received'), 5000),
    async end(station = 1): Promise<readonly string[]> {
      clock.catchUp();
      const told = diagnose(entriesOf(drafts), {
        line: 'K1',
        session: 's',
        station,
        index,
        protocol: modbusProtocol(framing),
        medium: 'tcp',
        settings: null,
        open: master.snapshot().open,
        troubleKind: why?.kind ?? null,
        trouble: why?.text ?? '',
        nowUs: clock.now(),
      }).map(({ id }) => id);
      await master.close();
      leave();
      return told;
    },
  };
}

async function networkVerdicts(): Promise<readonly Verdict[]> {
  const yard = new NetworkYard(PORTS);
  await yard.start();
  for (const { name, port } of yard.states()) PORTS[name] = port;
  const verdicts: Verdict[] = [];
  const tell = (name: string, truth: string, told: readonly string[]): void => {
    verdicts.push({ name, truth: [truth], told });
  };
  try {
    tell('nothing listens at the port', 'tcp-refused', await (await tcpLine(PORTS.E1 + 1, 'modbus-tcp')).end());
    tell(
      'an address outside the local networks',
      'not-allowed',
      await (await tcpLine(502, 'modbus-tcp', '8.8.4.4')).end(),
    );
    const first = await tcpLine(PORTS.K1, 'modbus-rtu');
    const second = await tcpLine(PORTS.K1, 'modbus-rtu');
    await second.lost();
    tell('the device server has one connection, and it is taken', 'tcp-limit', await second.end());
    await first.end();
    // The device server needs a moment to notice.
    await new Promise((resolve) => setTimeout(resolve, 100));
    const wrongUnit = await tcpLine(PORTS.K1, 'modbus-rtu');
    await wrongUnit.ask(9, 386);
    await wrongUnit.ask(9, 386);
    tell('a device server with a unit that nobody has behind it', 'tcp-silent', await wrongUnit.end(9));
    const menu = await tcpLine(PORTS.D1, 'modbus-tcp');
    await menu.ask();
    await menu.heard();
    tell('Modbus spoken to a text menu', 'other-protocol', await menu.end());
    const dead = await tcpLine(PORTS.E1, 'modbus-tcp');
    await dead.ask();
    await yard.behave('E1', 'vanished');
    await dead.ask();
    await dead.ask();
    tell('a pulled cable: the connection is half open', 'half-open', await dead.end());
    await yard.behave('E1', 'works');
    const hung = await tcpLine(PORTS.E1, 'modbus-tcp');
    await hung.ask();
    await yard.behave('E1', 'hangs-up');
    await hung.ask();
    tell('the device closes the connection while it is used', 'far-closed', await hung.end());
  } finally {
    await yard.stop();
  }
  return verdicts;
}

const rankOf = ({ truth, told }: Verdict): readonly number[] => truth.map((id) => told.indexOf(id) + 1);

it('finds the true cause first in nearly all conditions, and in the first three in all', async () => {
  const verdicts = [...(await Promise.all(SERIAL.map(serialVerdict))), ...(await networkVerdicts())];
  const rows = verdicts.map((verdict) => {
    const ranks = rankOf(verdict);
    return `${ranks
      .map((rank) => (rank === 0 ? '-' : rank))
      .join(', ')
      .padEnd(5)} ${verdict.name.padEnd(66)} ${verdict.told.slice(0, 4).join(', ')}`;
  });
  process.stdout.write(`rank  condition${' '.repeat(58)}told\n${rows.join('\n')}\n`);
  const single = verdicts.filter(({ truth }) => truth.length === 1);
  const pairs = verdicts.filter(({ truth }) => truth.length === 2);
  expect(pairs.length).toBeGreaterThanOrEqual(5);
  expect(single.length).toBeGreaterThanOrEqual(25);
  const inThree = (verdict: Verdict): boolean => rankOf(verdict).every((rank) => rank >= 1 && rank <= 3);
  expect(verdicts.filter((verdict) => !inThree(verdict)).map(({ name }) => name)).toEqual([]);
  expect(single.filter((verdict) => rankOf(verdict)[0] === 1).length).toBeGreaterThanOrEqual(
    Math.ceil((22 / 25) * single.length),
  );
});

it('a healthy line is told to be well: no cause is named', async () => {
  const line = await k1();
  ask(line, STATUS_3, 3);
  ask(line, STATUS_7, 3);
  expect(diagnose(entriesOf(line.entries), contextOf(line, K1))).toEqual([]);
});

it('the rules never see what the yard does: its events change nothing', async () => {
  const line = await k1();
  ask(line, '0C 03 0182 0001');
  const entries = entriesOf(line.entries);
  const told = diagnose(entries, contextOf(line, K1, 12));
  const withYard = entries.flatMap((entry): TraceEntry[] => [
    entry,
    { ...entry, direction: 'event', outcome: 'yard', bytes: new Uint8Array(0), cause: 'hand at the drive: power off' },
  ]);
  expect(diagnose(withYard, contextOf(line, K1, 12))).toEqual(told);
});

it('every suspect has evidence in words and says what to try next', async () => {
  for (const condition of SERIAL.slice(0, 10)) {
    const line = await k1({ end: condition.end ?? K1, seed: 5 });
    condition.story(line);
    for (const { title, next, evidence } of diagnose(
      entriesOf(line.entries),
      contextOf(line, condition.end ?? K1, condition.station),
    )) {
      expect(title).not.toBe('');
      expect(next).toMatch(/[.?]$/);
      expect(evidence.length).toBeGreaterThan(0);
    }
  }
});

it('exceptions of a gateway are told as such', () => {
  const base = { line: 'K1', session: 's', station: 1, lineFaults: [], exchange: 1, cause: 'test' } as const;
  const exceptionTold = (code: number): string | undefined => {
    const entries: TraceEntry[] = [
      {
        ...base,
        sequence: 0,
        atUs: 0,
        direction: 'sent',
        bytes: Uint8Array.of(0, 1, 0, 0, 0, 6, 1, 3, 0, 0, 0, 1),
        outcome: 'none',
      },
      {
        ...base,
        sequence: 1,
        atUs: 9,
        direction: 'received',
        bytes: Uint8Array.of(0, 1, 0, 0, 0, 3, 1, 0x83, code),
        outcome: 'exception',
      },
    ];
    const context = {
      line: 'K1',
      session: 's',
      station: 1,
      index: null,
      protocol: modbusProtocol(TCP),
      medium: 'tcp',
      settings: null,
    } as const;
    return diagnose(entries, { ...context, open: true, troubleKind: null, trouble: '', nowUs: 100 })[0]?.id;
  };
  expect([5, 6, 10, 11].map(exceptionTold)).toEqual(['busy', 'busy', 'gateway-path', 'gateway-target']);
});
