import { rtu, K1 } from '../../tests/harness/line';
import { ternIndex } from '../../tests/harness/sheets';
import { trouble, type Trouble } from '../core/line/trouble';
import { RTU } from '../core/modbus/framing';
import { pick, seededRandom, type Random } from '../core/random/random';
import { failed, type Result } from '../core/result';
import { VirtualClock } from '../core/time/clock';
import type { EntryDraft } from '../link/exchanger';
import { LineMaster } from '../link/line-master';
import type { LinePlan } from '../messages/line';
import { ModbusControl } from '../link/modbus-control';
import type { LinkPort, PortEvents } from '../link/port';
import type { ExchangeResult } from '../link/request';
import { modbusKind } from '../link/line-kind';
import { StandinPort } from '../link/standin-port';
import { CALM } from '../standin/disturbance';
import { YardLine } from '../standin/yard';
import { HostedLine } from './hosted-line';

/** A port that takes its time to open, may fail late, and can be lost. It notes what must never happen to a real one. */
class SlowPort implements LinkPort {
  readonly wrongs: string[] = [];
  opening = 0;
  isOpen = false;
  openMs = 0;
  fails = false;
  readonly #inner: StandinPort;
  readonly #later: (action: () => void, ms: number) => void;
  #events: PortEvents | null = null;
  #generation = 0;

  constructor(inner: StandinPort, later: (action: () => void, ms: number) => void) {
    this.#inner = inner;
    this.#later = later;
  }

  pace = () => this.#inner.pace();
  settings = () => this.#inner.settings();
  sendBreak = (us: number) => this.#inner.sendBreak(us);
  setSignals = () => undefined;

  open(events: PortEvents): Promise<Result<void, Trouble>> {
    if (this.isOpen || this.opening > 0) this.wrongs.push('opened twice');
    this.opening++;
    const generation = ++this.#generation;
    const { fails } = this;
    return new Promise((resolve) =>
      this.#later(() => {
        this.opening--;
        if (fails) return resolve(failed(trouble('refused', 'not now')));
        // As a careful port does: what comes through after it was closed is undone.
        if (generation !== this.#generation) return resolve(failed(trouble('closed-here', 'closed meanwhile')));
        this.isOpen = true;
        this.#events = events;
        void this.#inner.open(events).then(resolve);
      }, this.openMs),
    );
  }

  close(): Promise<void> {
    this.#generation++;
    this.isOpen = false;
    this.#events = null;
    return this.#inner.close();
  }

  reconfigure(): void {}

  write(bytes: Uint8Array): number {
    if (!this.isOpen) this.wrongs.push('written to while closed');
    return this.#inner.write(bytes);
  }

  lose(): void {
    const events = this.#events;
    if (!this.isOpen) return;
    void this.close();
    events?.closed(trouble('closed-by-far', 'the far end closed it'));
  }
}

const RUN = rtu('03 06 02C1 000D');
const isRunWord = ({ direction, bytes }: EntryDraft): boolean =>
  direction === 'sent' && bytes[1] === 6 && bytes[2] === 2 && bytes[3] === 0xc1 && (bytes[5] ?? 0) === 0x0d;

function hosted(seed: number, far: LinePlan['far'] = { kind: 'tcp', host: '127.0.0.1', port: 1 }) {
  const clock = new VirtualClock();
  const index = ternIndex();
  const kept = { '2.01': 2, '2.02': 2, '5.01': 3 };
  const yard = new YardLine(clock, seededRandom(seed), K1, [{ station: 3, index, kept }], () => undefined);
  const later = (action: () => void, ms: number): void => void clock.at(clock.now() + ms * 1000, action);
  const port = new SlowPort(new StandinPort(yard.bus, clock, K1), later);
  const entries: EntryDraft[] = [];
  const results: ExchangeResult[] = [];
  const stops: boolean[] = [];
  const locks = { held: 0, most: 0 };
  const troubles: Trouble[] = [];
  const owner = new LineMaster(clock, port, modbusKind(RTU), [new ModbusControl(3, index, RTU)], {
    entry: (entry) => entries.push(entry),
    exchange: (result) => results.push(result),
    changed: () => undefined,
    stop: (_, over) => stops.push(over),
    procedure: () => undefined,
    closed: (why) => line.went(why),
  });
  const plan: LinePlan = {
    id: 'K1',
    protocol: 'modbus-rtu',
    settings: K1,
    far,
    echo: false,
    timeoutMs: null,
    stations: [],
  };
  const line: HostedLine = new HostedLine(plan, yard, owner, {
    locks: {
      take: () => {
        locks.held++;
        locks.most = Math.max(locks.most, locks.held);
        return Promise.resolve(() => void locks.held--);
      },
    },
    later,
    catchUp: () => undefined,
    changed: () => undefined,
    failedToOpen: (why) => troubles.push(why),
  });
  /** Lets promises settle between small steps of time. */
  const pass = async (ms: number): Promise<void> => {
    for (let at = 0; at < ms; at += 50) {
      clock.advanceBy(Math.min(50, ms - at) * 1000);
      for (let i = 0; i < 12; i++) await Promise.resolve();
    }
  };
  return { clock, yard, port, owner, line, entries, results, stops, locks, troubles, pass };
}

describe('a line from closed to open and back', () => {
  it('closing while it is being opened frees port and lock, however late the port is', async () => {
    const { line, port, locks, pass } = hosted(1);
    port.openMs = 3_000;
    void line.open();
    await pass(100);
    expect(line.life.kind).toBe('opening');
    void line.close();
    await pass(6_000);
    expect([line.life.kind, port.isOpen, port.opening, locks.held]).toEqual(['closed', false, 0, 0]);
  });

  it('two quick opens keep one lock and open the port once', async () => {
    const { line, port, locks, pass } = hosted(1);
    port.openMs = 500;
    void line.open();
    void line.open();
    await pass(2_000);
    expect([line.life.kind, port.isOpen, locks.held, locks.most]).toEqual(['open', true, 1, 1]);
    expect(port.wrongs).toEqual([]);
  });

  it('opened, closed and opened again in a hurry ends open', async () => {
    const { line, port, locks, pass } = hosted(1);
    port.openMs = 700;
    void line.open();
    await pass(100);
    void line.close();
    void line.open();
    await pass(5_000);
    expect([line.life.kind, port.isOpen, locks.held]).toEqual(['open', true, 1]);
    expect(port.wrongs).toEqual([]);
  });

  it('a port that fails late leaves it closed, with the reason and without the lock', async () => {
    const { line, port, locks, troubles, pass } = hosted(1);
    port.openMs = 2_000;
    port.fails = true;
    void line.open();
    await pass(3_000);
    expect(line.life).toMatchObject({ kind: 'closed', trouble: { kind: 'refused' } });
    expect([locks.held, troubles.length]).toEqual([0, 1]);
  });

  it('a lost connection is tried again; reading goes on then, and no run word', async () => {
    const { line, owner, port, yard, entries, pass } = hosted(1);
    void line.open();
    await pass(100);
    line.poll([{ station: 3, bytes: rtu('03 03 0182 0001'), everyUs: 200_000 }]);
    owner.send(3, RUN, 'test', 1);
    await pass(3_000);
    expect(yard.drives.get(3)?.isTurning()).toBe(true);
    port.lose();
    expect(line.life.kind).toBe('lost');
    const before = entries.length;
    await pass(30_000);
    expect(line.life.kind).toBe('open');
    const after = entries.slice(before);
    expect(after.some(({ direction, cause }) => direction === 'sent' && cause === 'poll')).toBe(true);
    expect(after.filter(isRunWord)).toEqual([]);
    expect(yard.drives.get(3)?.isTurning()).toBe(false);
  });
});

/** What a person and the world may do to a line; each returns whether a run word may be on the line from now on without a press. */
const OPERATIONS = [
  'open',
  'close',
  'run',
  'read',
  'stop',
  'lose',
  'settings',
  'sleep',
  'hang',
  'noise',
  'calm',
  'wait',
] as const;

describe('any operations in any order, against a naive model', () => {
  it.each([1, 2, 3, 4, 5, 6])(
    'seeds from %i hundred on',
    async (hundred) => {
      for (let seed = hundred * 100; seed < hundred * 100 + 25; seed++) {
        const random: Random = seededRandom(seed);
        const world = hosted(seed);
        const { line, owner, port, yard, entries, results, stops, locks, clock, pass } = world;
        let sent = 0;
        /** The model: no run word leaves unless a person pressed it since the last thing that ends it. */
        let mayRepeat = false;
        for (let i = 0; i < 25; i++) {
          const before = entries.length;
          const operation = OPERATIONS[pick(random, OPERATIONS.length)] ?? 'wait';
          port.openMs = pick(random, 800);
          port.fails = pick(random, 6) === 0;
          switch (operation) {
            case 'open':
              void line.open();
              break;
            case 'close':
              void line.close();
              mayRepeat = false;
              break;
            case 'run':
              owner.send(3, RUN, 'test', ++sent);
              mayRepeat = true;
              break;
            case 'read':
              owner.send(3, rtu('03 03 0182 0001'), 'test', ++sent);
              break;
            case 'stop':
              owner.stop(3);
              mayRepeat = false;
              break;
            case 'lose':
              port.lose();
              mayRepeat = false;
              break;
            case 'settings':
              owner.reconfigure(K1);
              break;
            case 'sleep':
              owner.fellAsleep(30);
              clock.advanceBy(30_000_000);
              owner.awoke();
              mayRepeat = false;
              break;
            case 'hang':
              // What the host does for a page that does not answer.
              if (owner.snapshot().keepAlives.length > 0) owner.stop(3, 'the page did not answer');
              mayRepeat = false;
              break;
            case 'noise':
              yard.bus.disturbance = { ...CALM, loseReply: 0.3, dropByte: 0.02 };
              break;
            case 'calm':
              yard.bus.disturbance = CALM;
              break;
            case 'wait':
              break;
          }
          // A run word that was on the wire as the end came has left; none may be begun after it.
          const from = mayRepeat ? Infinity : entries.length;
          await pass(100 + pick(random, 2_000));
          const repeated = entries.slice(Math.max(from, before)).filter(isRunWord);
          expect([seed, i, operation, repeated.length]).toEqual([seed, i, operation, 0]);
        }
        yard.bus.disturbance = CALM;
        owner.stop(3);
        await pass(40_000);
        void line.close();
        await pass(10_000);
        // Every law of liveness at once: all is told, freed and at rest.
        expect([seed, line.life.kind, port.isOpen, port.opening, locks.held]).toEqual([seed, 'closed', false, 0, 0]);
        expect([seed, port.wrongs]).toEqual([seed, []]);
        expect([seed, results.filter(({ request }) => request.ticket > 0).length]).toEqual([seed, sent]);
        expect([seed, stops[stops.length - 1]]).toEqual([seed, true]);
        expect([seed, yard.drives.get(3)?.isTurning()]).toEqual([seed, false]);
        expect([seed, owner.snapshot().keepAlives, owner.snapshot().driven]).toEqual([seed, [], []]);
      }
    },
    60_000,
  );
});
