import { frameGapUs, type SerialSettings } from '../core/line/settings';
import type { Random } from '../core/random/random';
import { answerLater } from './answering';
import type { Clock, Due } from '../core/time/clock';
import { impersonate, serveRtu, type RegisterBank } from './rtu-server';
import type { CharacterFault, Party, SerialBus } from './serial-bus';

/** The drive's end of a serial line. */
export interface LinkEnd {
  readonly station: number;
  readonly settings: SerialSettings;
}

/** The drive behind the serial side. */
export interface SerialDrive extends RegisterBank {
  readonly link: () => LinkEnd;
  /** Powered and done with its start. */
  readonly isUp: () => boolean;
  /** A valid request came for this drive. */
  readonly heard: () => void;
  readonly heardBreak: (us: number) => void;
}

const THINKING = { shortestUs: 2_000, longestUs: 6_000 };

/** The serial side of a drive: collects characters, ends a frame by 3.5 characters of silence, answers after a while. */
export class RtuStation implements Party {
  readonly side = 'drives';
  /** Takes the drive off the line. */
  readonly leave: () => void;
  readonly #bus: SerialBus;
  readonly #clock: Clock;
  readonly #random: Random;
  readonly #drive: SerialDrive;
  #frame: number[] = [];
  #spoiled = false;
  #silence: Due | null = null;

  constructor(bus: SerialBus, clock: Clock, random: Random, drive: SerialDrive) {
    this.#bus = bus;
    this.#clock = clock;
    this.#random = random;
    this.#drive = drive;
    this.leave = bus.attach(this);
  }

  readonly settings = (): SerialSettings => this.#drive.link().settings;

  readonly hearBreak = (us: number): void => this.#drive.heardBreak(us);

  readonly hear = (byte: number, fault: CharacterFault): void => {
    this.#frame.push(byte);
    if (fault) this.#spoiled = true;
    if (this.#silence !== null) this.#clock.cancel(this.#silence);
    this.#silence = this.#clock.at(this.#clock.now() + frameGapUs(this.settings()), () => this.#frameEnded());
  };

  #frameEnded(): void {
    const frame = this.#frame;
    const spoiled = this.#spoiled;
    this.#frame = [];
    this.#spoiled = false;
    this.#silence = null;
    const { station } = this.#drive.link();
    if (spoiled || !this.#drive.isUp()) return;
    if (frame[0] === station) this.#drive.heard();
    const reply = serveRtu(frame, station, this.#drive);
    if (!reply) return;
    const foreign = (bytes: Uint8Array): Uint8Array => impersonate(bytes, (this.#drive.link().station % 247) + 1);
    answerLater(this.#bus, this.#clock, this.#random, this, reply, THINKING, foreign, () => this.#drive.isUp());
  }
}
