/**
 * The state machine of IEC 61800-7-201 (CiA 402), written from the standard's transitions as the drive works and not from the bench's tables.
 * It knows words and states only; ramps, faults and time are the drive's.
 */
export type Cia402State =
  'not-ready' | 'disabled' | 'ready' | 'switched-on' | 'enabled' | 'quick-stop' | 'reaction' | 'fault';

/** Status bits 0 to 6 without voltage enabled (bit 4). Bit 5 is 1 unless a quick stop is active. */
const SHOWN: Readonly<Record<Cia402State, number>> = {
  'not-ready': 0x00,
  disabled: 0x40,
  ready: 0x21,
  'switched-on': 0x23,
  enabled: 0x27,
  'quick-stop': 0x07,
  reaction: 0x0f,
  fault: 0x08,
};

const bit = (word: number, n: number): boolean => Math.floor(word / 2 ** n) % 2 === 1;

/** The state machine of a CiA 402 drive (IEC 61800-7-201), with the words that move it. */
export class Cia402Machine {
  #state: Cia402State = 'not-ready';
  #word = 0;

  state(): Cia402State {
    return this.#state;
  }

  /** The control word that acts. */
  word(): number {
    return this.#word;
  }

  statusBits(): number {
    return SHOWN[this.#state];
  }

  /** Power came on; the drive is not ready before its own start is over. */
  powerUp(): void {
    this.#state = 'not-ready';
    this.#word = 0;
  }

  /** Transition 1. */
  started(): void {
    if (this.#state === 'not-ready') this.#state = 'disabled';
  }

  /** Transition 13, from any state but the fault itself. */
  fail(): void {
    if (this.#state !== 'fault') this.#state = 'reaction';
  }

  /** Transition 14. */
  reacted(): void {
    if (this.#state === 'reaction') this.#state = 'fault';
  }

  /** Takes a control word; `causeGone` = the fault’s cause is gone, so that a reset works. Whether the word differs does not matter. */
  command(word: number, causeGone: boolean): void {
    const rose = bit(word, 7) && !bit(this.#word, 7);
    this.#word = word;
    if (bit(word, 7)) {
      if (rose && this.#state === 'fault' && causeGone) this.#state = 'disabled';
      return;
    }
    this.#state = this.#after(bit(word, 0), bit(word, 1), bit(word, 2), bit(word, 3));
  }

  #after(switchOn: boolean, voltage: boolean, noQuickStop: boolean, enable: boolean): Cia402State {
    const is = (...states: readonly Cia402State[]): boolean => states.includes(this.#state);
    if (!voltage) return is('ready', 'switched-on', 'enabled', 'quick-stop') ? 'disabled' : this.#state;
    if (!noQuickStop) {
      if (is('ready', 'switched-on')) return 'disabled';
      return is('enabled') ? 'quick-stop' : this.#state;
    }
    if (!switchOn) return is('disabled', 'switched-on', 'enabled') ? 'ready' : this.#state;
    if (!enable) return is('ready', 'enabled') ? 'switched-on' : this.#state;
    // From ready, transitions 3 and 4 one after the other.
    return is('ready', 'switched-on', 'quick-stop') ? 'enabled' : this.#state;
  }
}
