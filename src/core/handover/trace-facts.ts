import type { LineProtocol } from '../protocol/line-protocol';
import type { PlaceLink } from '../places/place-link';
import type { SheetIndex } from '../sheet/index-sheet';
import type { Cell } from '../sheet/place';
import type { TraceEntry } from '../trace/entry';
import { roleActive } from '../words/read';
import { hexNumber } from '../bytes/hex';

/** An exchange, or an event of a line, and when it was. */
export interface Seen {
  readonly session: string;
  readonly line: string;
  readonly sequence: number;
  readonly exchange: number;
  readonly atMs: number;
}

export interface WordSeen extends Seen {
  readonly word: number;
}

/** A word that was written and confirmed; `before` is what the drive held, where that had been read. */
export interface Written extends WordSeen {
  readonly before: number | undefined;
  readonly cause: string;
  /** Whether its request said that it is kept without power, or is not; null where it said nothing of it. */
  readonly keeps: boolean | null;
}

/** A fault of the drive: from the answer that told it first to the one that told that it is gone. */
export interface FaultMet {
  /** Its number; null where only the status word told it. */
  readonly code: number | null;
  readonly from: Seen;
  readonly to: Seen | null;
  /** The last thing that was written before it was gone; null where nothing was: it went by itself, or at the drive. */
  readonly cure: Uint8Array | null;
}

export interface KeyExchange {
  readonly why: string;
  readonly request: Uint8Array;
  readonly reply: Uint8Array;
  readonly seen: Seen;
}

/** What became of the last Stop that was pressed, in the words of the line. */
export interface StopSeen extends Seen {
  readonly outcome: string;
}

/** All that a trace tells of one drive, as far as a record needs it. */
export interface DriveFacts {
  readonly answers: number;
  readonly silences: number;
  readonly first: Seen | null;
  readonly last: Seen | null;
  readonly words: ReadonlyMap<Cell, WordSeen>;
  readonly written: ReadonlyMap<Cell, Written>;
  /** Words that went out, and of which no sure answer came since: the drive may hold them or not. */
  readonly doubts: ReadonlyMap<Cell, WordSeen>;
  /** When it was told to keep its settings, and to restart, last. */
  readonly kept: Seen | null;
  readonly restarted: Seen | null;
  readonly faults: readonly FaultMet[];
  readonly keys: readonly KeyExchange[];
  readonly stop: StopSeen | null;
}

export const NO_FACTS: DriveFacts = {
  answers: 0,
  silences: 0,
  first: null,
  last: null,
  words: new Map(),
  written: new Map(),
  doubts: new Map(),
  kept: null,
  restarted: null,
  faults: [],
  keys: [],
  stop: null,
};

/** What the reader of a trace must know of a drive: what its line spoke and its sheet at the time of an entry. */
export interface FactsDrive {
  readonly protocol: LineProtocol;
  readonly index: SheetIndex | null;
  /** The number by which its facts are asked for. */
  readonly station: number;
}

/** A drive that meets more faults than these has one trouble, not a hundred. */
const MOST_FAULTS = 100;
/** Exchanges of a drive that are shown as bytes. */
const MOST_KEYS = 12;
const STOP_WORD = 'a stop word';
/** Requests of a line whose reply may still come. */
const MOST_WAITING = 64;

class Drive {
  readonly facts: { -readonly [Key in keyof DriveFacts]: DriveFacts[Key] };
  readonly words = new Map<Cell, WordSeen>();
  readonly written = new Map<Cell, Written>();
  readonly doubts = new Map<Cell, WordSeen>();
  readonly faults: FaultMet[] = [];
  readonly keys = new Map<string, KeyExchange>();
  places: PlaceLink | null = null;
  index: SheetIndex | null = null;
  #protocol: LineProtocol | null = null;
  lastWrite: Uint8Array | null = null;

  constructor() {
    const { words, written, doubts, faults } = this;
    this.facts = { ...NO_FACTS, words, written, doubts, faults };
  }

  /** From now on it is read so. */
  read({ protocol, index }: FactsDrive): void {
    if (index === this.index && protocol === this.#protocol) return;
    this.index = index;
    this.#protocol = protocol;
    this.places = index && protocol.placesOf(index);
  }
}

/**
 * Goes through a trace, entry by entry in the order of time, and keeps of each drive what a record tells of it. Linear; what it holds grows with
 * the drives' values and not with the trace.
 */
export class TraceFacts {
  readonly #driveOf: (entry: TraceEntry) => FactsDrive | null;
  readonly #stationsOf: (entry: TraceEntry) => readonly number[];
  readonly #startMs: (session: string) => number;
  readonly #drives = new Map<string, Drive>();
  readonly #waiting = new Map<string, Map<number, TraceEntry>>();

  /** `driveOf`: the drive of an entry's station; `stationsOf`: all drives of its line, whom a request to all reaches. */
  constructor(
    driveOf: (entry: TraceEntry) => FactsDrive | null,
    stationsOf: (entry: TraceEntry) => readonly number[],
    startMs: (session: string) => number,
  ) {
    this.#driveOf = driveOf;
    this.#stationsOf = stationsOf;
    this.#startMs = startMs;
  }

  take(entry: TraceEntry): void {
    if (entry.direction === 'event') return this.#event(entry);
    if (entry.direction === 'sent') return this.#sent(entry);
    const request = this.#waiting.get(entry.line)?.get(entry.exchange);
    const drive = this.#drive(entry);
    if (!request || !drive || request.session !== entry.session || request.station !== entry.station) return;
    this.#waiting.get(entry.line)?.delete(entry.exchange);
    const seen = this.#seen(entry);
    if (entry.outcome === 'exception') {
      // What was refused is not held; what went out before it may be.
      for (const [cell] of drive.places?.written(request.bytes) ?? [])
        if (drive.doubts.get(cell)?.sequence === request.sequence) drive.doubts.delete(cell);
      return keep(drive, 'the first refusal', request, entry, seen);
    }
    if (entry.outcome !== 'answered') return;
    this.#answered(drive, request, entry, seen);
  }

  of(line: string, station: number): DriveFacts {
    const drive = this.#drives.get(`${line} ${station}`);
    return drive ? { ...drive.facts, keys: [...drive.keys.values()] } : NO_FACTS;
  }

  #sent(entry: TraceEntry): void {
    const own = this.#waiting.get(entry.line) ?? new Map<number, TraceEntry>();
    this.#waiting.set(entry.line, own);
    own.set(entry.exchange, entry);
    const seen = this.#seen(entry);
    for (const station of this.#reached(entry)) {
      const drive = this.#drive({ ...entry, station });
      for (const [cell, word] of drive?.places?.written(entry.bytes) ?? []) drive?.doubts.set(cell, { ...seen, word });
    }
    if (own.size > MOST_WAITING) for (const oldest of own.keys()) return void own.delete(oldest);
  }

  /** The stations that a request is for: to one that nobody answers, all of the line. */
  #reached(entry: TraceEntry): readonly number[] {
    return this.#driveOf(entry)?.protocol.answers(entry.bytes) === false ? this.#stationsOf(entry) : [entry.station];
  }

  #answered(drive: Drive, request: TraceEntry, reply: TraceEntry, seen: Seen): void {
    const { facts, places, index, words } = drive;
    facts.answers++;
    facts.first ??= seen;
    facts.last = seen;
    keep(drive, 'the first answer', request, reply, seen);
    if (!places || !index) return;
    for (const [cell, word] of places.written(request.bytes)) {
      const earlier = drive.written.get(cell);
      const before = earlier ? earlier.before : words.get(cell)?.word;
      drive.written.set(cell, { ...seen, word, before, cause: request.cause, keeps: places.keeps(request.bytes) });
      drive.doubts.delete(cell);
      const role = index.byCell.get(cell)?.role;
      if (role === 'keep' && word !== 0) facts.kept = seen;
      if (role === 'restart') facts.restarted = seen;
      if (role === 'control-word')
        keep(drive, request.cause === 'Stop' ? STOP_WORD : `control word ${hexNumber(word)}`, request, reply, seen);
      if (role !== 'keep' && role !== 'restart') words.set(cell, { ...seen, word });
    }
    if (places.writes(request.bytes) && !isSecret(drive, request.bytes, reply.bytes)) drive.lastWrite = request.bytes;
    for (const [cell, word] of places.learned(request.bytes, reply.bytes)) {
      words.set(cell, { ...seen, word });
      drive.doubts.delete(cell);
      const role = index.byCell.get(cell)?.role;
      if (role === 'fault-code') faultSeen(drive, word === 0 ? 'none' : word, seen, request, reply);
      const isFault = role === 'status-word' && index.words ? roleActive(index.words.status, 'fault', word) : null;
      if (isFault !== null) faultSeen(drive, isFault ? null : 'none', seen, request, reply);
    }
  }

  #event(entry: TraceEntry): void {
    if (entry.outcome === 'timeout') {
      const drive = this.#drive(entry);
      if (drive) drive.facts.silences++;
    }
    if (entry.outcome !== 'stop-done') return;
    const seen = this.#seen(entry);
    const byPerson = /^station (\d+): (a person saw .*)$/.exec(entry.cause);
    const said: (readonly [station: string | undefined, outcome: string | undefined])[] = byPerson
      ? [[byPerson[1], byPerson[2]]]
      : [...entry.cause.matchAll(/(\d+) ([a-z-]+)/g)].map(([, station, outcome]) => [station, outcome]);
    for (const [station, outcome] of said) {
      const drive = this.#drive({ ...entry, station: Number(station) });
      if (drive && outcome !== undefined) drive.facts.stop = { ...seen, outcome };
    }
  }

  /** The drive of an entry, read from now on as it was then. */
  #drive(entry: TraceEntry): Drive | null {
    const found = this.#driveOf(entry);
    if (!found) return null;
    const key = `${entry.line} ${found.station}`;
    const drive = this.#drives.get(key) ?? new Drive();
    this.#drives.set(key, drive);
    drive.read(found);
    return drive;
  }

  #seen = ({ session, line, sequence, exchange, atUs }: TraceEntry): Seen => ({
    session,
    line,
    sequence,
    exchange,
    atMs: this.#startMs(session) + atUs / 1000,
  });
}

/** Whether an exchange carries what is never shown. */
const isSecret = ({ index, places }: Drive, request: Uint8Array, reply: Uint8Array): boolean =>
  index !== null &&
  places !== null &&
  [...places.written(request), ...places.learned(request, reply)].some(
    ([cell]) => index.byCell.get(cell)?.secret === true,
  );

function keep(drive: Drive, why: string, request: TraceEntry, reply: TraceEntry, seen: Seen): void {
  // The first of each kind; of stop words the last, since it is the one that counts.
  const counts = why === STOP_WORD;
  if (!counts && (drive.keys.has(why) || drive.keys.size >= MOST_KEYS)) return;
  // A password, or a key to a lock, is in no record.
  if (isSecret(drive, request.bytes, reply.bytes)) return;
  drive.keys.set(why, { why, request: request.bytes, reply: reply.bytes, seen });
}

/** `code`: what the drive says now: a number, a fault without its number (null), or none. */
function faultSeen(
  drive: Drive,
  code: number | null | 'none',
  seen: Seen,
  request: TraceEntry,
  reply: TraceEntry,
): void {
  const { faults } = drive;
  const last = faults[faults.length - 1];
  const isOn = last?.to === null;
  if (isOn && (last.code === code || code === null)) return;
  if (isOn && last.code === null && code !== 'none') {
    faults[faults.length - 1] = { ...last, code };
  } else {
    if (isOn) faults[faults.length - 1] = { ...last, to: seen, cure: drive.lastWrite };
    if (code === 'none' || faults.length >= MOST_FAULTS) return;
    drive.lastWrite = null;
    faults.push({ code, from: seen, to: null, cure: null });
  }
  keep(drive, code === null ? 'a fault' : `fault ${code}`, request, reply, seen);
}
