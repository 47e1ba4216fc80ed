import { parseSettings, type SerialSettings } from '../line/settings';
import type { TroubleKind } from '../line/trouble';
import type { Heard } from '../line/what-sender';
import type { PlaceLink } from '../places/place-link';
import type { LineProtocol } from '../protocol/line-protocol';
import type { RefusalWhy } from '../protocol/refusal';
import { patternIn } from '../drive/seen';
import { turningBy, wordAsksToTurn } from '../drive/turning';
import type { SheetIndex } from '../sheet/index-sheet';
import type { TraceEntry } from '../trace/entry';

/** What is known of the line beside its trace: its own settings, and what became of opening it. Never what the yard does to it. */
export interface LineContext {
  readonly line: string;
  readonly session: string;
  readonly station: number;
  readonly index: SheetIndex | null;
  /** Null for plain text, in which nothing is asked and answered. */
  readonly protocol: LineProtocol | null;
  readonly medium: 'serial' | 'tcp';
  readonly settings: SerialSettings | null;
  readonly open: boolean;
  readonly troubleKind: TroubleKind | null;
  readonly trouble: string;
  readonly nowUs: number;
  /** The last sweep of this line that went through, and what answered it; absent where none did. */
  readonly sweep?: SweptLine | null;
}

/** What a sweep that went through its whole list says of a line. */
export interface SweptLine {
  readonly kind: 'settings' | 'stations';
  readonly tried: number;
  /** Stations that answered; of a sweep of settings the one that was asked, where it did. */
  readonly answered: readonly number[];
}

/** A pattern with its count and the newest entry that shows it. */
export interface Seen {
  readonly count: number;
  /** Sequence number of an entry that can be looked at; -1 where there is none. */
  readonly entry: number;
}

/** A refusal in the words of its protocol. */
export interface Refused extends Seen {
  readonly text: string;
}

const NEVER: Seen = { count: 0, entry: -1 };

/** Facts of a line since it was opened or its settings changed (`now`), and of the session before that. Nothing here is a guess. */
export interface Observation {
  readonly context: LineContext;
  /** Requests to the station, and what came of them, since the last change. */
  readonly sent: number;
  readonly answered: Seen;
  readonly timeouts: Seen;
  readonly damaged: Seen;
  readonly foreign: Seen;
  readonly late: Seen;
  /** Refusals by their reason, with the protocol's own words for the newest. */
  readonly refusals: ReadonlyMap<RefusalWhy, Refused>;
  /** Requests at the end of the trace, to this station, without a sure answer. */
  readonly failuresInARow: number;
  /** Other stations that answered since the last change, and that answered with damage. */
  readonly othersAnswered: readonly number[];
  readonly othersDamaged: Seen;
  /** Whole frames that nobody here asked for. */
  readonly unasked: Seen;
  /** What came back was what was sent. */
  readonly echoes: Seen;
  /** Replies that are whole once their missing first byte is put before them. */
  readonly beheaded: Seen;
  /** Bytes that made no frame, with their faults. */
  readonly junk: Heard;
  readonly junkEntry: number;
  readonly breaks: Seen;
  /** All bytes that came since the last change. */
  readonly received: number;
  /** The station answered before the last change of settings, or before the failures began. */
  readonly answeredBefore: Seen;
  /** This end's settings were changed after the last answer, and under which ones that came. */
  readonly endChanged: Seen & { readonly from: SerialSettings | null };
  /** A confirmed write of a link setting of the drive, after which no answer of the present run came. */
  readonly linkWritten: {
    readonly role: 'bit-rate' | 'character-form' | 'station';
    readonly raw: number;
    readonly entry: number;
  } | null;
  readonly restartAskedUs: number | null;
  /** The line was lost so soon after it was opened that nothing had been received. */
  readonly lostAtOnce: Seen;
  readonly lostLater: Seen;
  /** A run word that was confirmed, and a status read afterwards that says standstill; null where the trace shows no such thing. */
  readonly ran: { readonly entry: number; readonly atUs: number; readonly statusEntry: number } | null;
}

/** So far back a trace is looked at. */
const WINDOW = 2_000;
const AT_ONCE_US = 1_500_000;

class Tally {
  count = 0;
  entry = -1;

  hit(entry: TraceEntry): void {
    this.count++;
    this.entry = entry.sequence;
  }

  seen(): Seen {
    return this.count === 0 ? NEVER : { count: this.count, entry: this.entry };
  }
}

const sameBytes = (a: Uint8Array, b: Uint8Array): boolean =>
  a.length === b.length && a.every((byte, i) => byte === b[i]);

/** Reads the facts from a trace; linear in its entries. */
export function observe(entries: readonly TraceEntry[], context: LineContext): Observation {
  const own = entries
    .slice(-WINDOW)
    .filter(({ line, session, outcome }) => line === context.line && session === context.session && outcome !== 'yard');
  const startAt = lastChange(own);
  const before = own.slice(0, startAt);
  const now = own.slice(startAt);
  const tallies = {
    answered: new Tally(),
    timeouts: new Tally(),
    damaged: new Tally(),
    foreign: new Tally(),
    late: new Tally(),
    othersDamaged: new Tally(),
    unasked: new Tally(),
    echoes: new Tally(),
    beheaded: new Tally(),
    breaks: new Tally(),
    lostAtOnce: new Tally(),
    lostLater: new Tally(),
  };
  const refusals = new Map<RefusalWhy, Refused>();
  const others = new Set<number>();
  const junk = { bytes: [] as number[], framingErrors: 0, parityErrors: 0, entry: -1 };
  let sent = 0;
  let received = 0;
  let failuresInARow = 0;
  let request: TraceEntry | null = null;
  for (const entry of now) {
    if (entry.direction === 'sent') {
      request = entry;
      if (entry.station === context.station) sent++;
      continue;
    }
    if (entry.direction === 'event') {
      if (entry.outcome === 'timeout' && entry.station === context.station) {
        tallies.timeouts.hit(entry);
        failuresInARow++;
      }
      continue;
    }
    received += Math.max(entry.bytes.length, entry.lineFaults.length);
    if (entry.lineFaults.includes('break')) tallies.breaks.hit(entry);
    const mine = entry.exchange === 0 ? request?.station === context.station : entry.station === context.station;
    switch (entry.outcome) {
      case 'answered':
      case 'may-be-late':
        if (mine) {
          tallies.answered.hit(entry);
          failuresInARow = 0;
        } else others.add(entry.station);
        break;
      case 'exception': {
        if (!mine) {
          others.add(entry.station);
          break;
        }
        failuresInARow = 0;
        refused(entry, request, context.protocol, refusals);
        break;
      }
      case 'late':
        if (mine) tallies.late.hit(entry);
        break;
      case 'foreign':
        tallies.foreign.hit(entry);
        if (mine) failuresInARow++;
        break;
      default:
        broken(entry, mine, request, context, tallies, junk);
        if (entry.outcome === 'damaged' && mine) failuresInARow++;
    }
  }
  for (const [i, entry] of own.entries()) {
    if (entry.outcome !== 'closed' || entry.cause === 'closed by the user') continue;
    const opened = own.slice(0, i).findLast(({ outcome }) => outcome === 'opened');
    const heard = own
      .slice(0, i)
      .some((other) => other.direction === 'received' && other.sequence > (opened?.sequence ?? 0));
    (opened && entry.atUs - opened.atUs < AT_ONCE_US && !heard ? tallies.lostAtOnce : tallies.lostLater).hit(entry);
  }
  return {
    context,
    sent,
    received,
    failuresInARow,
    othersAnswered: [...others],
    refusals,
    junk,
    junkEntry: junk.entry,
    ...(Object.fromEntries(Object.entries(tallies).map(([name, tally]) => [name, tally.seen()])) as Record<
      keyof typeof tallies,
      Seen
    >),
    answeredBefore: answersIn(failuresInARow > 0 ? own : before, context.station),
    endChanged: endChange(own, context.station),
    ...linkWrites(own, context),
    ran: runWithoutMotion(own, context),
  };
}

/** Where the present conditions begin: the last opening, or the last change of this end's settings. */
function lastChange(own: readonly TraceEntry[]): number {
  const at = own.findLastIndex(({ outcome }) => outcome === 'opened' || outcome === 'settings');
  return Math.max(0, at);
}

interface Junk {
  bytes: number[];
  framingErrors: number;
  parityErrors: number;
  entry: number;
}

type Tallies = Readonly<Record<'damaged' | 'othersDamaged' | 'unasked' | 'echoes' | 'beheaded', Tally>>;

/** Enough junk to judge by; more would only cost time. */
const MOST_JUNK = 64;

/** A reply that is damaged, or bytes that belong to no request: an echo, a frame that nobody asked for, a beheaded reply, or junk. */
function broken(
  entry: TraceEntry,
  mine: boolean,
  request: TraceEntry | null,
  { protocol }: LineContext,
  tallies: Tallies,
  junk: Junk,
): void {
  const { bytes } = entry;
  if (request && sameBytes(bytes, request.bytes)) return tallies.echoes.hit(entry);
  const isWhole = (candidate: Uint8Array): boolean =>
    (['request', 'response'] as const).some((direction) => {
      const read = protocol?.read(candidate, direction);
      return read?.whole === true && read.faults.length === 0;
    });
  const isShared = protocol?.sharesLine === true;
  if (entry.lineFaults.length === 0 && isShared && isWhole(bytes)) return tallies.unasked.hit(entry);
  // Replies begin as their requests do: with the station, or with a character that opens every frame.
  const headed = Uint8Array.of(request?.bytes[0] ?? entry.station, ...bytes);
  if (entry.outcome === 'damaged' && isShared && isWhole(headed)) return tallies.beheaded.hit(entry);
  if (entry.outcome === 'damaged') (mine ? tallies.damaged : tallies.othersDamaged).hit(entry);
  junk.entry = entry.sequence;
  junk.framingErrors += entry.lineFaults.filter((fault) => fault === 'framing').length;
  junk.parityErrors += entry.lineFaults.filter((fault) => fault === 'parity').length;
  junk.bytes.push(...bytes.subarray(0, Math.max(0, MOST_JUNK - junk.bytes.length)));
}

/** A refusal counts with its reason. */
function refused(
  entry: TraceEntry,
  request: TraceEntry | null,
  protocol: LineProtocol | null,
  refusals: Map<RefusalWhy, Refused>,
): void {
  const pairing = request && protocol?.pair(request.bytes, entry.bytes);
  if (!protocol || pairing?.kind !== 'exception') return;
  const { why, text } = protocol.refusal(pairing.code);
  refusals.set(why, { text, entry: entry.sequence, count: (refusals.get(why)?.count ?? 0) + 1 });
}

const isAnswer = ({ direction, outcome }: TraceEntry): boolean =>
  direction === 'received' && (outcome === 'answered' || outcome === 'exception');

function answersIn(entries: readonly TraceEntry[], station: number): Seen {
  const answers = entries.filter((entry) => isAnswer(entry) && entry.station === station);
  return answers.length === 0 ? NEVER : { count: answers.length, entry: answers[answers.length - 1]?.sequence ?? -1 };
}

function endChange(own: readonly TraceEntry[], station: number): Observation['endChanged'] {
  const answer = own.findLast((entry) => isAnswer(entry) && entry.station === station);
  const changed = own.filter(({ outcome, sequence }) => outcome === 'settings' && answer && sequence > answer.sequence);
  const [first] = changed;
  if (!first) return { ...NEVER, from: null };
  return {
    count: changed.length,
    entry: changed[changed.length - 1]?.sequence ?? -1,
    from: parseSettings(/, was (.*)$/.exec(first.cause)?.[1] ?? ''),
  };
}

/** Every sure answer of the station, with the bytes that it answers. */
function* answeredBy(
  own: readonly TraceEntry[],
  station: number,
): Generator<{ readonly entry: TraceEntry; readonly asked: Uint8Array }> {
  const requests = new Map<number, TraceEntry>();
  for (const entry of own) {
    if (entry.station !== station) continue;
    if (entry.direction === 'sent') requests.set(entry.exchange, entry);
    const asked = entry.outcome === 'answered' ? requests.get(entry.exchange) : undefined;
    if (asked) yield { entry, asked: asked.bytes };
  }
}

const linkOf = ({ protocol, index }: LineContext): PlaceLink | null => (index && protocol?.placesOf(index)) ?? null;

/** A shaft is given this long to begin to turn, in microseconds. */
const STARTS_WITHIN_US = 1_000_000;

/** The last confirmed run word, when the status long enough after it still says standstill. */
function runWithoutMotion(own: readonly TraceEntry[], context: LineContext): Observation['ran'] {
  const { index } = context;
  const link = linkOf(context);
  const control = index?.byRole.get('control-word');
  if (!index || !link || control === undefined) return null;
  let ran: { entry: number; atUs: number } | null = null;
  let standing = -1;
  for (const { entry, asked } of answeredBy(own, context.station)) {
    const put = new Map(link.written(asked));
    const sent = patternIn(control, (cell) => put.get(cell));
    // A keep-alive repeats the word: what counts is when it was first sent.
    if (sent !== undefined)
      ran = wordAsksToTurn(index, sent) ? (ran ?? { entry: entry.sequence, atUs: entry.atUs }) : null;
    if (!ran || entry.atUs - ran.atUs < STARTS_WITHIN_US) continue;
    const told = new Map(link.learned(asked, entry.bytes));
    const turns = turningBy(index, (role) => {
      const place = index.byRole.get(role);
      return place && patternIn(place, (cell) => told.get(cell));
    });
    if (turns !== null) standing = turns ? -1 : entry.sequence;
  }
  return ran && standing >= 0 ? { ...ran, statusEntry: standing } : null;
}

/** Confirmed writes that change how the drive listens, and the restart that makes them active. */
function linkWrites(
  own: readonly TraceEntry[],
  context: LineContext,
): Pick<Observation, 'linkWritten' | 'restartAskedUs'> {
  const { index } = context;
  const link = linkOf(context);
  let linkWritten: Observation['linkWritten'] = null;
  let restartAskedUs: number | null = null;
  if (!link) return { linkWritten, restartAskedUs };
  for (const { entry, asked } of answeredBy(own, context.station)) {
    const written = link.written(asked);
    // An answer at the present settings that came after a restart ends the story of the write.
    if (written.length === 0 && restartAskedUs !== null && entry.atUs > restartAskedUs)
      restartAskedUs = linkWritten = null;
    for (const [place, raw] of written) {
      const role = index?.byCell.get(place)?.role;
      if (role === 'bit-rate' || role === 'character-form' || role === 'station')
        linkWritten = { role, raw, entry: entry.sequence };
      if (role === 'restart' && raw === 1) restartAskedUs = entry.atUs;
    }
  }
  return { linkWritten, restartAskedUs };
}
