import { rtu } from '../../../tests/harness/line';
import { ternIndex } from '../../../tests/harness/sheets';
import { RTU } from '../modbus/framing';
import { modbusProtocol } from '../protocol/modbus-protocol';
import type { TraceEntry } from '../trace/entry';
import { diagnose } from './diagnose';
import type { LineContext, SweptLine } from './observe';

const context: LineContext = {
  line: 'K1',
  session: 's',
  station: 3,
  index: ternIndex(),
  protocol: modbusProtocol(RTU),
  medium: 'serial',
  settings: { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 },
  open: true,
  troubleKind: null,
  trouble: '',
  nowUs: 60_000_000,
};

/** Requests to station 3, each with what became of it. */
function trace(...replies: readonly (string | null)[]): readonly TraceEntry[] {
  const asked = rtu('03 03 0182 0001');
  const entry = (part: Partial<TraceEntry>, sequence: number): TraceEntry => ({
    session: 's',
    sequence,
    line: 'K1',
    station: 3,
    atUs: sequence * 100_000,
    direction: 'sent',
    bytes: asked,
    lineFaults: [],
    exchange: 1 + Math.floor(sequence / 2),
    outcome: 'none',
    cause: 'Line',
    ...part,
  });
  return replies.flatMap((reply, i) => [
    entry({}, 2 * i),
    reply === null
      ? entry({ direction: 'event', bytes: new Uint8Array(0), outcome: 'timeout' }, 2 * i + 1)
      : entry({ direction: 'received', bytes: rtu(reply), outcome: 'answered' }, 2 * i + 1),
  ]);
}

const SILENT = trace(null, null, null);
const ids = (entries: readonly TraceEntry[], sweep: SweptLine | null = null): readonly string[] =>
  diagnose(entries, { ...context, sweep }).map(({ id }) => id);

it('a silent line has causes, and none is named of one that answers again', () => {
  expect(ids(SILENT)).toEqual(expect.arrayContaining(['line-dead', 'drive-off', 'wrong-station', 'wrong-rate']));
  for (const cured of ['line-dead', 'drive-off', 'wrong-station', 'wrong-rate'])
    expect(ids(trace(null, null, null, '03 03 02 2A0D'))[0]).not.toBe(cured);
});

it('a sweep that went through its list counts: what it speaks against stands last, what it shows first', () => {
  const settings = ids(SILENT, { kind: 'settings', tried: 40, answered: [] });
  expect(settings.indexOf('wrong-rate')).toBeGreaterThan(settings.indexOf('line-dead'));
  expect(settings.at(-1)).toMatch(/wrong-(?:rate|parity)/);
  const others = diagnose(SILENT, { ...context, sweep: { kind: 'stations', tried: 32, answered: [5, 9] } });
  expect(others[0]).toMatchObject({ id: 'wrong-station' });
  expect(others[0]?.evidence.at(-1)?.text).toBe('a sweep of 32 stations found 5, 9 and not 3');
  expect(ids(SILENT, { kind: 'stations', tried: 32, answered: [] }).at(-1)).toBe('wrong-station');
});
