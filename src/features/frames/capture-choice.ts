import * as v from 'valibot';
import type { CapturePlan, CaptureProtocol } from '../../core/capture/capture-plan';
import { guessMapping, logRecord, type LogMapping } from '../../core/capture/text-log';
import type { FramesAnswer } from '../../messages/frames';

/** How a capture is read, as the fields on the screen have it. */
export interface Setup {
  readonly form: CapturePlan['form'];
  readonly protocol: CaptureProtocol;
  /** The sheet whose dialect is read. */
  readonly sheet: string;
  readonly ports: string;
  readonly gapMs: string;
  readonly mapping: LogMapping;
}

export const FIRST_SETUP: Setup = {
  form: 'binary',
  protocol: 'modbus-rtu',
  sheet: '',
  ports: '502',
  gapMs: '4',
  mapping: { separator: 'blanks', timeColumn: 0, timeUnit: 's', directionColumn: 0, requestMark: '', bytesColumn: 1 },
};

/** The user's last choices are kept in the browser, so that tomorrow's log of the same kind opens by itself. */
const REMEMBERED = 'bujo capture mapping';

const RememberedSchema = v.object({
  protocol: v.picklist(['modbus-rtu', 'modbus-ascii', 'modbus-tcp', 'uss', 'dialect']),
  sheet: v.string(),
  ports: v.string(),
  gapMs: v.string(),
  mapping: v.object({
    separator: v.picklist(['blanks', 'tab', 'comma', 'semicolon']),
    timeColumn: v.number(),
    timeUnit: v.picklist(['s', 'ms', 'us']),
    directionColumn: v.number(),
    requestMark: v.string(),
    bytesColumn: v.number(),
  }),
});

/** What was kept, if it still has its form: storage can hold anything. */
function remembered(): Partial<Setup> {
  try {
    const parsed = v.safeParse(RememberedSchema, JSON.parse(localStorage.getItem(REMEMBERED) ?? '{}'));
    return parsed.success ? parsed.output : {};
  } catch {
    return {};
  }
}

/** TCP ports as typed; null where one of them is none. */
export function portsIn(text: string): readonly number[] | null {
  const ports = text
    .split(/[\s,]+/)
    .filter((part) => part !== '')
    .map((part) => (/^\d{1,5}$/.test(part) ? Number(part) : 0));
  return ports.length > 0 && ports.every((port) => port > 0 && port < 65536) ? ports : null;
}

/** A silence in milliseconds as typed, as microseconds; null where it is none. */
export const gapIn = (text: string): number | null =>
  /^\s*\d{1,6}(?:\.\d+)?\s*$/.test(text) ? Number(text) * 1000 : null;

/** The remembered columns where they read as many of the lines as the guess does. */
function bestMapping(lines: readonly string[], kept: LogMapping | undefined): LogMapping {
  const guess = guessMapping(lines);
  const read = (mapping: LogMapping): number => lines.filter((line) => logRecord(line, mapping) !== null).length;
  return kept && read(kept) >= read(guess) ? kept : guess;
}

export const rememberSetup = (setup: Setup): void => localStorage.setItem(REMEMBERED, JSON.stringify(setup));

/** The beginning of a file, as the worker tells it. */
export type Sample = Extract<FramesAnswer, { kind: 'sample' }>;

const DUMP_LINE = /^(?:[0-9a-f]{4,16}[:\s])?\s*(?:[0-9a-f]{2,4}[\s|]+){2}/i;

/** What a file is, by its beginning. */
function formOf({ lines, packets, printable }: Sample): Setup['form'] {
  if (packets) return 'packets';
  if (!printable) return 'binary';
  if (lines.slice(0, 20).every((line) => line === '' || DUMP_LINE.test(line))) return 'hex-dump';
  // Lines of Modbus ASCII are a stream of their own.
  return lines.some((line) => line.startsWith(':')) ? 'binary' : 'text-log';
}

/** How a file is read at first: by what it is, and by what was chosen the last time. */
export function firstSetup(sample: Sample): Setup {
  const kept = remembered();
  const form = formOf(sample);
  return {
    ...FIRST_SETUP,
    ...kept,
    form,
    protocol: form === 'packets' ? 'modbus-rtu' : (kept.protocol ?? FIRST_SETUP.protocol),
    mapping: form === 'text-log' ? bestMapping(sample.lines, kept.mapping) : FIRST_SETUP.mapping,
  };
}

/** The plan of these fields; null while one of them says what is wrong with it. */
export function planOf(
  { form, protocol, ports, gapMs, mapping }: Setup,
  dialect: CapturePlan['dialect'],
): CapturePlan | null {
  const [named, gapUs] = [portsIn(ports), gapIn(gapMs)];
  if (!named || gapUs === null) return null;
  return { form, protocol, ports: named, gapUs, mapping, ...(dialect ? { dialect } : {}) };
}
