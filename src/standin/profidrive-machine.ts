/**
 * The general state machine of IEC 61800-7-203 (PROFIdrive) as the drive works it, written from memory of the published description and not
 * from the bench's tables. Levels act all the time; after OFF1 the drive comes to S2 at standstill, after OFF3 to S1.
 */
export type ProfidriveState = 'S1' | 'S2' | 'S3' | 'S4' | 'S5';

/** Status bits 0, 1, 2 and 6. */
const SHOWN: Readonly<Record<ProfidriveState, number>> = { S1: 0x40, S2: 0x01, S3: 0x03, S4: 0x07, S5: 0x03 };

const bit = (word: number, n: number): boolean => Math.floor(word / 2 ** n) % 2 === 1;

/** The general state machine of a PROFIdrive axis (S1 to S5), with the words that move it. */
export class ProfidriveMachine {
  #state: ProfidriveState = 'S1';
  #word = 0;
  #faulted = false;
  /** How S5 was entered. */
  #fast = false;

  state(): ProfidriveState {
    return this.#state;
  }

  word(): number {
    return this.#word;
  }

  isFaulted(): boolean {
    return this.#faulted;
  }

  isFast(): boolean {
    return this.#fast;
  }

  statusBits(): number {
    const off2 = bit(this.#word, 1) ? 0x10 : 0;
    const off3 = bit(this.#word, 2) ? 0x20 : 0;
    return SHOWN[this.#state] + (this.#faulted ? 0x08 : 0) + off2 + off3;
  }

  powerUp(): void {
    this.#state = 'S1';
    this.#word = 0;
    this.#faulted = false;
  }

  /** A fault takes the pulses away. */
  fail(): void {
    this.#faulted = true;
    this.#state = 'S1';
  }

  /** Takes control word 1. Without control by PLC (bit 10) it is not looked at. */
  command(word: number, causeGone: boolean, standing: boolean): void {
    if (!bit(word, 10)) return;
    if (bit(word, 7) && !bit(this.#word, 7) && causeGone) this.#faulted = false;
    this.#word = word;
    this.settle(standing);
  }

  /** Follows the word's levels as far as they go; called again when the shaft has come to rest. */
  settle(standing: boolean): void {
    for (let before: ProfidriveState | null = null; before !== this.#state;) {
      before = this.#state;
      this.#state = this.#next(standing);
    }
  }

  #next(standing: boolean): ProfidriveState {
    const [on, noOff2, noOff3, enable] = [0, 1, 2, 3].map((n) => bit(this.#word, n));
    switch (this.#state) {
      case 'S1':
        return !this.#faulted && !on && noOff2 && noOff3 ? 'S2' : 'S1';
      case 'S2':
        if (!noOff2 || !noOff3) return 'S1';
        return on ? 'S3' : 'S2';
      case 'S3':
        if (!noOff2 || !noOff3) return 'S1';
        if (!on) return 'S2';
        return enable ? 'S4' : 'S3';
      case 'S4':
        if (!noOff2) return 'S1';
        if (!noOff3 || !on) {
          this.#fast = !noOff3;
          return 'S5';
        }
        return enable ? 'S4' : 'S3';
      case 'S5':
        if (!noOff2) return 'S1';
        if (!noOff3) this.#fast = true;
        if (standing) return this.#fast ? 'S1' : 'S2';
        return on && enable && !this.#fast ? 'S4' : 'S5';
    }
  }
}
