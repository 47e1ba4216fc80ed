import { characterUs, frameGapUs, innerGapUs, settingsText, type SerialSettings } from './settings';

/** One stretch of an exchange on the wire. Times in microseconds. */
export interface Stretch {
  readonly kind: 'request' | 'reply-delay' | 'reply' | 'gap';
  readonly us: number;
  /** How the number came about. */
  readonly working: string;
}

/** How a line is spoken on, as far as time goes. */
export type LineTiming =
  | { readonly kind: 'modbus-rtu'; readonly settings: SerialSettings }
  | { readonly kind: 'uss'; readonly settings: SerialSettings }
  | { readonly kind: 'ascii'; readonly settings: SerialSettings }
  /** `roundTripUs`: from the request's last byte to the reply's first, network and device together. */
  | { readonly kind: 'modbus-tcp'; readonly roundTripUs: number };

/** Bytes each way, and how long the drive thinks before it answers. */
export interface ExchangeSize {
  readonly requestBytes: number;
  readonly replyBytes: number;
  readonly replyDelayUs: number;
}

/** USS: at least two characters before a telegram (from memory of the published description). */
export const USS_START_GAP_CHARACTERS = 2;
/** USS: a telegram may take at most this times its compact time (from memory of the published description). */
const USS_STRETCH = 1.5;

const ms = (us: number): string => `${(us / 1000).toFixed(3)} ms`;

function gapOf(timing: Exclude<LineTiming, { kind: 'modbus-tcp' }>): Stretch {
  const { settings } = timing;
  if (timing.kind === 'uss') {
    const us = USS_START_GAP_CHARACTERS * characterUs(settings);
    return { kind: 'gap', us, working: `start gap: ${USS_START_GAP_CHARACTERS} characters = ${ms(us)}` };
  }
  if (timing.kind === 'ascii')
    return { kind: 'gap', us: 0, working: 'no silence is needed: a terminator ends the line' };
  const us = frameGapUs(settings);
  return {
    kind: 'gap',
    us,
    working:
      settings.rate > 19200
        ? `above 19200 bit/s the silence is fixed: ${ms(us)}`
        : `3.5 characters of ${ms(characterUs(settings))} = ${ms(us)}`,
  };
}

function bytesStretch(kind: 'request' | 'reply', bytes: number, settings: SerialSettings): Stretch {
  const us = bytes * characterUs(settings);
  return {
    kind,
    us,
    working: `${bytes} characters of ${ms(characterUs(settings))} at ${settingsText(settings)} = ${ms(us)}`,
  };
}

/** One exchange as stretches in the order of time; the sum is how long the line is taken. */
export function exchangeStretches(timing: LineTiming, size: ExchangeSize): readonly Stretch[] {
  if (timing.kind === 'modbus-tcp')
    return [
      {
        kind: 'reply-delay',
        us: timing.roundTripUs,
        working: `one round trip, network and device: ${ms(timing.roundTripUs)}; the bytes themselves take next to nothing`,
      },
    ];
  const { settings } = timing;
  const gap = gapOf(timing);
  const delayUs = Math.max(size.replyDelayUs, gap.us);
  return [
    bytesStretch('request', size.requestBytes, settings),
    {
      kind: 'reply-delay',
      us: delayUs,
      working:
        delayUs > size.replyDelayUs
          ? `the drive needs ${ms(size.replyDelayUs)}, but the silence after the request is longer: ${ms(delayUs)}`
          : `the drive’s reply delay: ${ms(delayUs)}`,
    },
    bytesStretch('reply', size.replyBytes, settings),
    gap,
  ];
}

/** The sum of the stretches of an exchange, in microseconds. */
export const totalUs = (stretches: readonly Stretch[]): number => stretches.reduce((sum, { us }) => sum + us, 0);

/** Times of a serial setting that a technician compares with the manual, in microseconds, each with its working. */
export function characterTimes(settings: SerialSettings): readonly { readonly name: string; readonly us: number }[] {
  return [
    { name: 'one character', us: characterUs(settings) },
    { name: '1.5 characters, longest inside a frame', us: innerGapUs(settings) },
    { name: '3.5 characters, silence between frames', us: frameGapUs(settings) },
  ];
}

/** Longest time that a USS telegram of `bytes` may take, in microseconds. */
export const ussLongestUs = (settings: SerialSettings, bytes: number): number =>
  USS_STRETCH * bytes * characterUs(settings);

/** What is asked of one station in each cycle. */
export interface CycleItem extends ExchangeSize {
  readonly station: number;
  /** Exchanges of this size in a cycle. */
  readonly times: number;
}

export interface Cycle {
  readonly us: number;
  /** Share of the cycle in which bytes are on the wire, 0 to 1; silences and waiting are the rest. */
  readonly busy: number;
  readonly perStation: readonly { readonly station: number; readonly us: number }[];
}

/** The shortest cycle in which every item is asked once, one after the other, with no time lost between. */
export function idealCycle(timing: LineTiming, items: readonly CycleItem[]): Cycle {
  const parts = items.map((item) => {
    const stretches = exchangeStretches(timing, item);
    const wireUs = totalUs(stretches.filter(({ kind }) => kind === 'request' || kind === 'reply'));
    return { station: item.station, us: totalUs(stretches) * item.times, wireUs: wireUs * item.times };
  });
  const us = parts.reduce((sum, part) => sum + part.us, 0);
  const stations = [...new Set(parts.map(({ station }) => station))];
  return {
    us,
    busy: us === 0 ? 0 : parts.reduce((sum, part) => sum + part.wireUs, 0) / us,
    perStation: stations.map((station) => ({
      station,
      us: parts.reduce((sum, part) => (part.station === station ? sum + part.us : sum), 0),
    })),
  };
}

/** How many stations, each asked with these exchanges, fit into a wanted cycle. */
export function stationsThatFit(timing: LineTiming, perStation: readonly ExchangeSize[], cycleUs: number): number {
  const each = perStation.reduce((sum, size) => sum + totalUs(exchangeStretches(timing, size)), 0);
  return each === 0 ? 0 : Math.floor(cycleUs / each + 1e-9);
}

/** The shortest cycle that so many stations allow, in microseconds. */
export const cycleFor = (timing: LineTiming, perStation: readonly ExchangeSize[], stations: number): number =>
  stations * perStation.reduce((sum, size) => sum + totalUs(exchangeStretches(timing, size)), 0);

/** Exchanges that may get lost in a row before a drive's watchdog runs out. */
const LOST_IN_A_ROW = 2;

/**
 * The longest interval between two commands that keeps a watchdog calm although `lost` of them in a row get lost, each costing its time-out
 * and, after it, another one of silence. Null when the watchdog is too short for that.
 */
export function watchdogSafeUs(
  watchdogUs: number,
  exchangeUs: number,
  timeoutUs: number,
  lost = LOST_IN_A_ROW,
): number | null {
  const spare = watchdogUs - exchangeUs - lost * 2 * timeoutUs;
  return spare > 0 ? spare / (lost + 1) : null;
}
