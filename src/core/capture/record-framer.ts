import type { Direction } from '../direction';
import { SERIAL_LINE, type CaptureBuilder, type Origin } from './builder';
import type { CapturePlan } from './capture-plan';
import type { Finds, FrameSink, Splitter } from './frame-sink';
import { asciiSplitter, dialectSplitter, tcpSplitter, ussSplitter } from './split-framed';
import { RtuSplitter } from './split-rtu';

/** The splitter of a plan's protocol. */
export function splitterInto(plan: CapturePlan, sink: FrameSink): Splitter {
  switch (plan.protocol) {
    case 'modbus-rtu':
      return new RtuSplitter(sink);
    case 'modbus-ascii':
      return asciiSplitter(sink);
    case 'modbus-tcp':
      return tcpSplitter(sink);
    case 'uss':
      return ussSplitter(sink);
    case 'dialect':
      return plan.dialect ? dialectSplitter(plan.dialect, sink) : new RtuSplitter(sink);
  }
}

/** Joins records that follow each other without a silence, and cuts each burst for itself: timing ends what structure cannot. */
export class RecordFramer {
  readonly #splitter: Splitter;
  readonly #builder: CaptureBuilder;
  readonly #gapUs: number;
  readonly #origin: Origin;
  #direction: Direction | null = null;
  #lastUs = NaN;
  /** Records of the present burst: where each begins in the stream, and its time. */
  #records: { readonly at: number; readonly timeUs: number }[] = [];
  #pushed = 0;

  constructor(plan: CapturePlan, builder: CaptureBuilder, gapUs = plan.gapUs, origin = SERIAL_LINE) {
    this.#builder = builder;
    this.#splitter = splitterInto(plan, { take: (offset, bytes, finds) => this.#found(offset, bytes, finds) });
    this.#gapUs = gapUs;
    this.#origin = origin;
  }

  take(timeUs: number, direction: Direction | null, bytes: Uint8Array): void {
    const turned = direction !== this.#direction;
    const silent = timeUs - this.#lastUs > this.#gapUs;
    if (turned || silent) this.flush();
    this.#direction = direction;
    this.#records.push({ at: this.#pushed, timeUs });
    this.#pushed += bytes.length;
    this.#splitter.push(bytes);
    this.#lastUs = timeUs;
  }

  flush(): void {
    if (this.#records.length > 0) this.#splitter.end();
    this.#records = [];
  }

  /** Each frame gets the time of the record in which it begins: a reply within the gap is not as old as its request. */
  #found(offset: number, bytes: Uint8Array, finds: Finds): void {
    const records = this.#records;
    let at = records.length - 1;
    while (at > 0 && (records[at]?.at ?? 0) > offset) at--;
    for (let from = 0; from < finds.count;) {
      const nextAt = (records[at + 1]?.at ?? Infinity) - offset;
      let until = from;
      while (until < finds.count && (finds.starts[until] as number) < nextAt) until++;
      const timeUs = records[at]?.timeUs ?? NaN;
      if (until > from)
        this.#builder.take(offset, bytes, finds.part(from, until), timeUs, this.#direction, this.#origin);
      from = until;
      at++;
    }
  }
}
