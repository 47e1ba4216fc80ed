import type { SerialSettings } from '../core/line/settings';
import { pick, type Random } from '../core/random/random';
import type { Clock, Due } from '../core/time/clock';
import type { CharacterFault, Party, SerialBus } from './serial-bus';

/** The drive's end of a serial line. */
export interface LinkEnd {
  readonly station: number;
  readonly settings: SerialSettings;
}

/** What every serial side needs of the drive behind it. */
export interface OnLine {
  readonly link: () => LinkEnd;
  /** Powered and done with its start. */
  readonly isUp: () => boolean;
}

/** A drive thinks this long before it answers, evenly spread, in microseconds. */
export interface Thinking {
  readonly shortestUs: number;
  readonly longestUs: number;
}

/** The serial side of a drive, whatever it speaks: it listens by the drive's own settings, waits for silence, and answers after a while. */
export abstract class SerialStation<Drive extends OnLine> implements Party {
  readonly side = 'drives';
  /** Takes the drive off the line. */
  readonly leave: () => void;
  protected readonly bus: SerialBus;
  protected readonly drive: Drive;
  readonly #clock: Clock;
  readonly #random: Random;
  #silence: Due | null = null;

  constructor(bus: SerialBus, clock: Clock, random: Random, drive: Drive) {
    this.bus = bus;
    this.drive = drive;
    this.#clock = clock;
    this.#random = random;
    this.leave = bus.attach(this);
  }

  readonly settings = (): SerialSettings => this.drive.link().settings;

  abstract readonly hear: (byte: number, fault: CharacterFault) => void;
  abstract readonly hearBreak: (us: number) => void;

  /** Does something when nothing more was heard for so long; a character in between begins the wait anew. */
  protected afterSilence(us: number, action: () => void): void {
    if (this.#silence !== null) this.#clock.cancel(this.#silence);
    this.#silence = this.#clock.at(this.#clock.now() + us, () => {
      this.#silence = null;
      action();
    });
  }

  /**
   * Puts an answer on the line after a while, with what the yard's faults do to it: some get lost, some come late, some in another station's
   * name (`foreign` makes such a one).
   */
  protected answer(
    reply: Uint8Array,
    { shortestUs, longestUs }: Thinking,
    foreign: (reply: Uint8Array) => Uint8Array,
  ): void {
    const random = this.#random;
    const { loseReply, delayFromUs, delayReplyUs, foreignReply, doubleReply } = this.bus.disturbance;
    if (loseReply > 0 && random() < loseReply) return;
    const bytes = foreignReply > 0 && random() < foreignReply ? foreign(reply) : reply;
    const thinkUs = shortestUs + pick(random, longestUs - shortestUs);
    const extraUs = delayFromUs + (delayReplyUs > delayFromUs ? pick(random, delayReplyUs - delayFromUs) : 0);
    const times = doubleReply > 0 && random() < doubleReply ? 2 : 1;
    this.#clock.at(this.#clock.now() + thinkUs + extraUs, () => {
      for (let i = 0; i < times && this.drive.isUp(); i++) this.bus.transmit(this, bytes);
    });
  }
}
