import { frameGapUs } from '../core/line/settings';
import { impersonate, serveRtu, type RegisterBank } from './rtu-server';
import { RtuServices } from './rtu-services';
import type { CharacterFault } from './serial-bus';
import { SerialStation, type OnLine } from './serial-station';

/** The drive behind the serial side. */
export interface SerialDrive extends RegisterBank, OnLine {
  /** A valid request came for this drive. */
  readonly heard: () => void;
  readonly heardBreak: (us: number) => void;
}

const THINKING = { shortestUs: 2_000, longestUs: 6_000 };

/** The Modbus RTU side of a drive: collects characters, ends a frame by 3.5 characters of silence. */
export class RtuStation extends SerialStation<SerialDrive> {
  #frame: number[] = [];
  #spoiled = false;
  readonly #services = this.drive.identity ? new RtuServices(this.drive.identity) : null;

  readonly hearBreak = (us: number): void => this.drive.heardBreak(us);

  readonly hear = (byte: number, fault: CharacterFault): void => {
    this.#frame.push(byte);
    if (fault) this.#spoiled = true;
    this.afterSilence(frameGapUs(this.settings()), () => this.#frameEnded());
  };

  #frameEnded(): void {
    const frame = this.#frame;
    const spoiled = this.#spoiled;
    this.#frame = [];
    this.#spoiled = false;
    const { station } = this.drive.link();
    if (spoiled || !this.drive.isUp()) return;
    if (frame[0] === station) this.drive.heard();
    const reply = serveRtu(frame, station, this.drive, this.#services);
    if (reply) this.answer(reply, THINKING, (bytes) => impersonate(bytes, (this.drive.link().station % 247) + 1));
  }
}
