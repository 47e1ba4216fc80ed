import Papa from 'papaparse';
import { bytesToHex } from '../core/bytes/hex';
import { filterFrames, framesOfKinds, type FrameFilter } from '../core/capture/frame-filter';
import type { FrameEntry } from '../core/capture/frame-index';
import { glancesOf, type Glances } from '../core/capture/glance';
import { Selection } from '../core/capture/selection';
import { leastOf, mostOf } from '../core/extent';
import { ModbusTcpPackets, pcapngHead, serialPacket } from '../core/capture/pcapng-write';
import type { CapturePlan } from '../core/capture/capture-plan';
import { isOfRound, roundsOf, type Round } from '../core/capture/rounds';
import { captureReader, type Capture } from '../core/capture/read-capture';
import type { LineProtocol } from '../core/protocol/line-protocol';
import { BlockWatch, wordItems, type WatchedBlock } from '../core/process-image/block-watch';
import type { ImageItem, ImageOrder } from '../core/process-image/image';
import { carriedBytes } from '../core/protocol/carried-bytes';
import { protocolOfCapture } from '../core/protocol/of-capture';
import { framingOf, TCP } from '../core/modbus/framing';
import type { CaptureRow } from '../messages/frames';

/** Bytes read of a file in one go: in smaller pieces asking for them takes as long as half of what is done with them. */
const PIECE = 1 << 21;
/** Kept bytes are handed over in blobs of this size, so that they need not stay in memory. */
const BLOB = 1 << 22;
/** Frames whose bytes a text search reads in one go. */
const BATCH = 2000;

/** Bytes that are kept apart from the file they came from: a few at a time, far too many for memory. */
class KeptBytes {
  readonly #parts: Blob[] = [];
  readonly #part = new Uint8Array(BLOB);
  #size = 0;

  add(bytes: Uint8Array): void {
    for (let at = 0; at < bytes.length;) {
      const fitting = bytes.subarray(at, at + BLOB - this.#size);
      this.#part.set(fitting, this.#size);
      this.#size += fitting.length;
      at += fitting.length;
      if (this.#size === BLOB) this.#flush();
    }
  }

  all(): Blob {
    this.#flush();
    return new Blob(this.#parts);
  }

  #flush(): void {
    this.#parts.push(new Blob([this.#part.subarray(0, this.#size)]));
    this.#size = 0;
  }
}

type OnFound = (places: Selection, looked: number, over: boolean) => boolean;

/** A file that is open: its index, and where its frames' bytes can be read again. */
export class OpenCapture {
  readonly capture: Capture;
  readonly #plan: CapturePlan;
  readonly #bytes: Blob;
  readonly #protocol: LineProtocol;
  readonly #overTcp: LineProtocol;
  readonly #glances: Glances;
  /** The filter that is gone through, over at last whatever becomes of it. */
  #filtering: Promise<unknown> = Promise.resolve();

  private constructor(capture: Capture, plan: CapturePlan, bytes: Blob) {
    this.capture = capture;
    this.#plan = plan;
    this.#bytes = bytes;
    this.#protocol = protocolOfCapture(plan.protocol, plan.dialect, false);
    this.#overTcp = protocolOfCapture(plan.protocol, plan.dialect, true);
    this.#glances = glancesOf(plan.protocol);
  }

  /** Reads a file from beginning to end, a piece at a time; `onProgress` may make it wait after a piece, and ends it with false. */
  static async open(
    file: Blob,
    plan: CapturePlan,
    onProgress: (read: number) => boolean | Promise<boolean>,
  ): Promise<OpenCapture | null> {
    const kept = new KeptBytes();
    const reader = captureReader(plan, (bytes) => kept.add(bytes));
    const piece = (at: number): Promise<ArrayBuffer> => file.slice(at, at + PIECE).arrayBuffer();
    let coming = piece(0);
    for (let at = 0; at < file.size; at += PIECE) {
      const bytes = new Uint8Array(await coming);
      // The next one is fetched while this one is gone through.
      coming = piece(at + PIECE);
      reader.push(bytes);
      if (!(await onProgress(Math.min(at + PIECE, file.size)))) {
        coming.catch(() => undefined);
        return null;
      }
    }
    await coming;
    const capture = reader.end();
    return new OpenCapture(capture, plan, plan.form === 'binary' ? file : kept.all());
  }

  readonly #readAgain = async (from: number, until: number): Promise<Uint8Array> =>
    new Uint8Array(await this.#bytes.slice(from, until).arrayBuffer());

  /** The bytes of some frames, read in one go where they lie close together. */
  async #bytesOf(entries: readonly FrameEntry[]): Promise<ReadonlyMap<number, Uint8Array>> {
    const from = leastOf(entries, ({ offset }) => offset);
    const until = mostOf(entries, ({ offset, length }) => offset + length);
    if (until - from <= WIDEST_READ) {
      const span = await this.#readAgain(from, until);
      return new Map(
        entries.map(({ offset, length }) => [offset, span.subarray(offset - from, offset - from + length)]),
      );
    }
    return new Map(
      await Promise.all(
        entries.map(async ({ offset, length }) => [offset, await this.#readAgain(offset, offset + length)] as const),
      ),
    );
  }

  /** The frames at these places with their meaning. */
  async rows(places: Uint32Array): Promise<readonly CaptureRow[]> {
    const { index } = this.capture;
    const shown = Array.from(places, (place) => ({ place, entry: index.at(place) })).flatMap(({ place, entry }) => {
      if (!entry) return [];
      return [{ place, entry, asked: entry.direction === 'response' ? index.at(entry.partner) : null }];
    });
    if (shown.length === 0) return [];
    const bytes = await this.#bytesOf(shown.flatMap(({ entry, asked }) => (asked ? [entry, asked] : [entry])));
    return shown.map(({ place, entry, asked }) =>
      this.#row(
        place,
        entry,
        asked,
        bytes.get(entry.offset) ?? NOTHING,
        asked ? (bytes.get(asked.offset) ?? null) : null,
      ),
    );
  }

  #row(
    place: number,
    entry: FrameEntry,
    asked: FrameEntry | null,
    bytes: Uint8Array,
    request: Uint8Array | null,
  ): CaptureRow {
    const protocol = entry.tcp ? this.#overTcp : this.#protocol;
    const { unitOf } = entry.tcp ? this.#glances.tcp : this.#glances.own;
    return {
      place,
      timeUs: entry.timeUs,
      direction: entry.direction,
      unit: entry.direction === 'junk' ? 0 : unitOf(bytes, 0, bytes.length),
      tcp: entry.tcp,
      hex: bytesToHex(bytes.subarray(0, SHOWN), ' ').toUpperCase() + (bytes.length > SHOWN ? ' …' : ''),
      bytes: bytes.slice(),
      text:
        entry.direction === 'junk'
          ? junkText(protocol, bytes)
          : protocol.sentence(bytes, entry.direction, request, null),
      fault: entry.fault,
      exception: entry.exception,
      unanswered: entry.direction === 'request' && entry.partner < 0,
      delayUs: asked ? entry.timeUs - asked.timeUs : NaN,
      request: request?.slice() ?? null,
    };
  }

  /** Places that a filter and a text let through, the filter first; `onFound` is called on the way, with `over` at the end, and ends it with false. */
  filter(filter: FrameFilter, text: string, onFound: OnFound): Promise<void> {
    const going = this.#filter(filter, text, onFound);
    this.#filtering = going.catch(() => undefined);
    return going;
  }

  async #filter(filter: FrameFilter, text: string, onFound: OnFound): Promise<void> {
    const { index } = this.capture;
    const wanted = text.trim().toLowerCase();
    const found = new Selection(index.count);
    const places = await filterFrames(index, filter, this.#readAgain, (passing, looked) =>
      onFound(wanted === '' ? passing : found, looked, false),
    );
    if (!places) return;
    let looked = 0;
    for (const batch of wanted === '' ? [] : places.batches(BATCH)) {
      for (const row of await this.rows(batch))
        if (`${row.text} ${row.hex}`.toLowerCase().includes(wanted)) found.add(row.place);
      looked += batch.length;
      if (!onFound(found, looked, false)) return;
    }
    onFound(wanted === '' ? places : found, places.count, true);
  }

  /** What goes round in it; null where `goesOn` ended it. A filter goes first: somebody waits for it. */
  rounds(goesOn: () => Promise<boolean> | boolean = () => true): Promise<readonly Round[] | null> {
    return roundsOf(this.capture.index, this.#readAgain, async () => {
      await this.#filtering;
      return goesOn();
    });
  }

  /** What one round of the capture carries, one way, cycle by cycle; null where `goesOn` ended it. */
  async watch(
    round: Round,
    way: 'out' | 'in',
    layout: { readonly items: readonly ImageItem[]; readonly order: ImageOrder } | null,
    goesOn: () => boolean,
  ): Promise<{ readonly bytes: Uint8Array | null; readonly told: WatchedBlock } | null> {
    const { index } = this.capture;
    const protocol = round.tcp ? this.#overTcp : this.#protocol;
    let watch = layout && new BlockWatch(layout.items, layout.order);
    let last: Uint8Array | null = null;
    /** Cycles before the first that brought anything: only then is it known how many words there are. */
    const early: number[] = [];
    const places = await framesOfKinds(index, (kinds, id) => isOfRound(round, kinds, id), this.#readAgain, goesOn);
    if (!places) return null;
    for (const part of places.batches(BATCH)) {
      const entries = Array.from(part).flatMap((place) => index.at(place) ?? []);
      const replies = entries.map(({ partner }) => (partner < 0 ? null : index.at(partner)));
      const bytes = await this.#bytesOf([...entries, ...replies.flatMap((reply) => reply ?? [])]);
      if (!goesOn()) return null;
      for (const [i, entry] of entries.entries()) {
        const reply = replies[i] ?? null;
        const carried = carriedBytes(
          protocol,
          bytes.get(entry.offset) ?? NOTHING,
          reply && !reply.fault ? (bytes.get(reply.offset) ?? null) : null,
        );
        const own = reply && !reply.exception && !reply.fault ? carried[way] : null;
        if (own && !watch) {
          watch = new BlockWatch(wordItems(own.length), 'big');
          for (const atUs of early) watch.add(atUs, null);
        }
        if (watch) watch.add(entry.timeUs, own);
        else early.push(entry.timeUs);
        last = own ?? last;
      }
    }
    watch ??= new BlockWatch([], 'big');
    return { bytes: last?.slice() ?? null, told: watch.told() };
  }

  /** The frames at these places as a file; times count from 1970 where the source has none of its own. */
  async export(places: Selection, form: 'pcapng' | 'csv' | 'jsonl'): Promise<Blob> {
    const parts: BlobPart[] = [];
    const packets = new ModbusTcpPackets(40_000);
    if (form === 'pcapng') parts.push(pcapngHead('Bujo') as BlobPart);
    if (form === 'csv') parts.push(`${COLUMNS.join(',')}\r\n`);
    let written = 0;
    for (const batch of places.batches(BATCH))
      for (const row of await this.rows(batch)) {
        // Without times the order is all that there is: a millisecond from frame to frame keeps it.
        const timeUs = Number.isNaN(row.timeUs) ? 1000 * written : row.timeUs;
        written++;
        parts.push(form === 'pcapng' ? (packetOf(packets, row, timeUs, this.#plan) as BlobPart) : lineOf(row, form));
      }
    return new Blob(parts, { type: TYPES[form] });
  }
}

const NOTHING = new Uint8Array(0);
/** Frames farther apart than this are read one by one. */
const WIDEST_READ = 1 << 22;
const SHOWN = 64;
const TYPES = { pcapng: 'application/octet-stream', csv: 'text/csv', jsonl: 'application/x-ndjson' } as const;
const COLUMNS = ['place', 'timeUs', 'direction', 'station', 'hex', 'meaning', 'delayUs'] as const;

const cellsOf = ({
  place,
  timeUs,
  direction,
  unit,
  bytes,
  text,
  delayUs,
}: CaptureRow): readonly (string | number | null)[] => [
  place,
  Number.isNaN(timeUs) ? null : timeUs,
  direction,
  direction === 'junk' ? null : unit,
  bytesToHex(bytes, ' '),
  text,
  Number.isNaN(delayUs) ? null : delayUs,
];

/** A row as a line of text. */
function lineOf(row: CaptureRow, form: 'csv' | 'jsonl'): string {
  const cells = cellsOf(row);
  return form === 'csv'
    ? `${Papa.unparse([cells], { escapeFormulae: true })}\r\n`
    : `${JSON.stringify(Object.fromEntries(COLUMNS.map((column, k) => [column, cells[k]])))}\n`;
}

/** What is wrong with bytes that are no frame: the better of the two readings says it. */
function junkText(protocol: LineProtocol, bytes: Uint8Array): string {
  const readings = (['request', 'response'] as const).map((direction) => protocol.read(bytes, direction).faults);
  const [first] = readings.sort((a, b) => a.length - b.length)[0] ?? [];
  return `no frame: ${first?.text ?? 'nothing begins here'}`;
}

/** A frame as a packet: Modbus, however it was framed, as Modbus/TCP, which a packet analyser opens; everything else as serial bytes. */
function packetOf(packets: ModbusTcpPackets, row: CaptureRow, timeUs: number, plan: CapturePlan): Uint8Array {
  const { bytes, direction, text, tcp } = row;
  const framing = tcp ? TCP : plan.protocol === 'uss' || plan.protocol === 'dialect' ? null : framingOf(plan.protocol);
  if (direction === 'junk' || !framing) return serialPacket(timeUs, bytes, ascii(text));
  if (framing.id === 'modbus-tcp') return packets.packet(timeUs, bytes, direction);
  const inner = framing.read(bytes, direction).message;
  const tcpFrame = inner ? TCP.encode(inner, direction) : null;
  return tcpFrame?.ok
    ? packets.packet(timeUs, tcpFrame.value, direction, `${framing.name}: ${bytesToHex(bytes, ' ')}`)
    : serialPacket(timeUs, bytes, ascii(text));
}

/** Comments are kept to plain characters. */
const ascii = (text: string): string => text.replace(/[^\x20-\x7e]/g, '-');

/** Whether a file's beginning reads as text, and its first lines. */
export function sampleOf(head: Uint8Array): { readonly lines: readonly string[]; readonly printable: boolean } {
  const text = new TextDecoder().decode(head);
  const odd = head.filter((byte) => byte < 9 || (byte > 13 && byte < 32) || byte === 127).length;
  return { lines: text.split(/\r?\n/).slice(0, 60), printable: odd === 0 && head.length > 0 };
}
