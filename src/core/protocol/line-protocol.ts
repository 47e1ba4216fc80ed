import type { Field } from '../bytes/field';
import type { Direction } from '../direction';
import type { Fault } from '../fault';
import type { ModbusMessage } from '../modbus/message';
import type { Pairing } from '../pairing';
import type { PlaceLink } from '../places/place-link';
import type { SheetIndex } from '../sheet/index-sheet';
import type { Refusal } from './refusal';

/** What a frame says, as far as it matters to a line and to a view that knows no protocol. */
export interface FrameReading {
  readonly faults: readonly Fault[];
  /** It was understood well enough to be paired, or at least its check closes it. */
  readonly whole: boolean;
  /** The message, where the line speaks Modbus. */
  readonly modbus: ModbusMessage | null;
}

/** One way to speak on a line. Views and links know nothing of a protocol but this. */
export interface LineProtocol {
  readonly family: 'modbus' | 'uss' | 'ascii';
  readonly name: string;
  /** Its bytes are characters that people read. */
  readonly speaksText: boolean;
  /** Others may speak on the line too, and are heard: so it is on any serial line, even one behind a device server. */
  readonly sharesLine: boolean;
  /** Silence of a serial line before a request, in characters; null: that of Modbus RTU, which ends its frames by it. */
  readonly restCharacters: number | null;
  /** Bytes of the longest frame. */
  readonly longest: number;
  /** Stations that can be asked, and whether there are stations at all. */
  readonly stations: { readonly least: number; readonly most: number };
  readonly read: (bytes: Uint8Array, direction: Direction, request?: Uint8Array | null) => FrameReading;
  readonly anatomy: (bytes: Uint8Array, direction: Direction, request?: Uint8Array | null) => readonly Field[];
  /** Makes the check, or the length, right again after an edit. */
  readonly seal: (bytes: Uint8Array) => Uint8Array;
  /** The frame with the check, or the head, that somebody left out when it was written down; null where these bytes are none without it either. */
  readonly completed: (bytes: Uint8Array) => Uint8Array | null;
  /** Length of the reply that begins at `start`: 0 while it may still become one, -1 when none begins here. */
  readonly probe: (bytes: Uint8Array, start: number, end: number) => number;
  readonly pair: (request: Uint8Array, reply: Uint8Array) => Pairing;
  /** Whether one good answer could belong to either of two requests, so that only time tells them apart. */
  readonly shareAnswer: (one: Uint8Array, other: Uint8Array) => boolean;
  /** Whether anybody answers this request; nobody answers a broadcast. */
  readonly answers: (request: Uint8Array) => boolean;
  /** The station that a request goes to, or null where it names none. */
  readonly stationOf: (bytes: Uint8Array) => number | null;
  /** The request as it leaves: some protocols number it. */
  readonly numbered: (bytes: Uint8Array, exchange: number) => Uint8Array;
  /** How the values of a drive with this sheet are written, read and learned. */
  readonly placesOf: (index: SheetIndex) => PlaceLink;
  /** What any drive answers without doing anything, a refusal counted as an answer; null where nothing like it can be asked. */
  readonly harmless: (station: number, index: SheetIndex | null) => Uint8Array | null;
  /** What the number of a refusal means. */
  readonly refusal: (code: number) => Refusal;
  /** One line of words for a frame. `request` is the frame that a reply belongs to. */
  readonly sentence: (
    bytes: Uint8Array,
    direction: Direction,
    request: Uint8Array | null,
    index: SheetIndex | null,
  ) => string;
}
