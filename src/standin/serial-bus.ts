import { bitsPerCharacter, characterUs, type SerialSettings } from '../core/line/settings';
import { receiveUart, type UartEnd } from '../core/line/uart';
import { pick, type Random } from '../core/random/random';
import type { Clock } from '../core/time/clock';
import { CALM, type Disturbance } from './disturbance';

export type CharacterFault = 'parity' | 'framing' | 'break' | null;

/** Someone on the line. `hear` is called at the end of each character's stop bit. */
export interface Party {
  /** Cable faults lie between the bench and the drives. */
  readonly side: 'bench' | 'drives';
  readonly settings: () => SerialSettings;
  readonly hear: (byte: number, fault: CharacterFault) => void;
  /** The line was low for longer than a character, this many microseconds in all. */
  readonly hearBreak?: (us: number) => void;
}

interface Span {
  readonly party: Party;
  readonly startUs: number;
  endUs: number;
}

const sameSettings = (a: SerialSettings, b: SerialSettings): boolean =>
  a.rate === b.rate && a.dataBits === b.dataBits && a.parity === b.parity && a.stopBits === b.stopBits;

const endOf = ({ rate, ...form }: SerialSettings): UartEnd => ({
  ...form,
  rate: { num: BigInt(Math.round(rate)), den: 1n },
});

/**
 * A half-duplex line on the given clock: everyone hears everyone else, a character takes its time, two talkers at once spoil each other.
 * Ends with unlike settings, or with swapped conductors between them, hear what a receiver makes of the levels on the wire, bit by bit.
 */
export class SerialBus {
  #disturbance: Disturbance = CALM;
  readonly #clock: Clock;
  readonly #random: Random;
  readonly #parties = new Set<Party>();
  #talking: Span[] = [];

  constructor(clock: Clock, random: Random) {
    this.#clock = clock;
    this.#random = random;
  }

  get disturbance(): Disturbance {
    return this.#disturbance;
  }

  set disturbance(disturbance: Disturbance) {
    const swapped = disturbance.swapped && !this.#disturbance.swapped;
    this.#disturbance = disturbance;
    if (swapped) for (const party of this.#parties) this.#idleIsLow(party);
  }

  attach(party: Party): () => void {
    this.#parties.add(party);
    if (this.#disturbance.swapped) this.#idleIsLow(party);
    return () => this.#parties.delete(party);
  }

  /** Puts bytes on the line, after what this party is still sending. Returns when the last stop bit ends. */
  transmit(party: Party, bytes: Uint8Array): number {
    const settings = party.settings();
    const step = characterUs(settings);
    const span = this.#talk(party, step * bytes.length);
    const { startUs } = span;
    bytes.forEach((byte, i) => {
      const endUs = startUs + step * (i + 1);
      this.#clock.at(endUs, () => this.#deliver(span, byte, i === 0, settings, endUs - step, endUs));
    });
    for (const other of this.#parties)
      if (other !== party && this.#reaches(party, other) && !this.#hearsPlainly(other, party, settings))
        this.#deliverUnlike(party, other, bytes, settings, startUs);
    return span.endUs;
  }

  /** Holds the line low, after what this party is still sending. Returns when it ends. */
  sendBreak(party: Party, us: number): number {
    const span = this.#talk(party, us);
    this.#clock.at(span.endUs, () => {
      for (const other of this.#parties) {
        if (other === party || !this.#reaches(party, other) || this.#crossed(party, other)) continue;
        if (us < characterUs(other.settings())) continue;
        other.hear(0, 'break');
        other.hearBreak?.(us);
      }
    });
    return span.endUs;
  }

  #talk(party: Party, us: number): Span {
    const now = this.#clock.now();
    this.#talking = this.#talking.filter(({ endUs }) => endUs > now);
    const startUs = this.#talking.reduce(
      (latest, span) => (span.party === party ? Math.max(latest, span.endUs) : latest),
      now,
    );
    const span: Span = { party, startUs, endUs: startUs + us };
    this.#talking.push(span);
    return span;
  }

  #reaches(from: Party, to: Party): boolean {
    const { open } = this.#disturbance;
    return from.side === to.side || open === 'nowhere' || (open === 'from-drives' && from.side === 'bench');
  }

  #crossed = (from: Party, to: Party): boolean => this.#disturbance.swapped && from.side !== to.side;

  #hearsPlainly = (party: Party, from: Party, settings: SerialSettings): boolean =>
    sameSettings(party.settings(), settings) && !this.#crossed(from, party);

  /** With swapped conductors the resting line is low for this end: one endless break, whose first character is heard. */
  #idleIsLow(party: Party): void {
    if (party.side === 'bench') this.#clock.at(this.#clock.now(), () => party.hear(0, 'break'));
  }

  #deliver(from: Span, byte: number, first: boolean, settings: SerialSettings, startUs: number, endUs: number): void {
    const { dropByte, flipBits, echo, lateTurnaround } = this.#disturbance;
    if (dropByte > 0 && this.#random() < dropByte) return;
    let seen = byte;
    let fault: CharacterFault = null;
    if (flipBits > 0 && this.#random() < flipBits) [seen, fault] = this.#damage(byte, settings);
    if (this.#talking.some((span) => span.party !== from.party && span.startUs < endUs && span.endUs > startUs)) {
      seen = pick(this.#random, 256);
      fault = 'framing';
    }
    for (const party of this.#parties) {
      if (party === from.party) {
        if (echo && party.side === 'bench') party.hear(byte, null);
        continue;
      }
      if (lateTurnaround && first && party.side === 'bench') continue;
      if (this.#reaches(from.party, party) && this.#hearsPlainly(party, from.party, settings)) party.hear(seen, fault);
    }
  }

  /** What an end with other settings hears of one transmission; each character comes at the end of its own stop bit. */
  #deliverUnlike(from: Party, party: Party, bytes: Uint8Array, settings: SerialSettings, startUs: number): void {
    const own = party.settings();
    const { dropByte, flipBits } = this.#disturbance;
    const { characters } = receiveUart(endOf(settings), endOf(own), {
      bytes,
      gapBits: 0,
      idleBeforeBits: 1,
      idleAfterBits: 40,
      inverted: this.#crossed(from, party),
    });
    const idleUs = characterUs(settings) / bitsPerCharacter(settings);
    for (const { byte, frameError, parityError, startUs: edgeUs } of characters) {
      if (dropByte > 0 && this.#random() < dropByte) continue;
      const [seen, damage] = flipBits > 0 && this.#random() < flipBits ? this.#damage(byte, own) : [byte, null];
      const fault: CharacterFault = frameError ? 'framing' : parityError ? 'parity' : damage;
      this.#clock.at(startUs - idleUs + edgeUs + characterUs(own), () => party.hear(seen, fault));
    }
  }

  /** One or two flipped bits; parity sees the single one. */
  #damage(byte: number, { parity }: SerialSettings): [number, CharacterFault] {
    const first = pick(this.#random, 8);
    if (this.#random() < 0.5) return [byte ^ (1 << first), parity === 'N' ? null : 'parity'];
    const second = (first + 1 + pick(this.#random, 7)) % 8;
    return [byte ^ (1 << first) ^ (1 << second), null];
  }
}
