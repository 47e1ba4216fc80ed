import { bitsPerCharacter, characterUs, type SerialSettings } from '../core/line/settings';
import { receiveUart, type UartEnd } from '../core/line/uart';
import { pick, type Random } from '../core/random/random';
import type { Clock } from '../core/time/clock';
import { CALM, type Disturbance } from './disturbance';

export type CharacterFault = 'parity' | 'framing' | null;

/** Someone on the line. `hear` is called at the end of each character's stop bit. */
export interface Party {
  readonly settings: () => SerialSettings;
  readonly hear: (byte: number, fault: CharacterFault) => void;
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
 * Ends with unlike settings hear what a receiver of their settings makes of the levels on the wire, bit by bit.
 */
export class SerialBus {
  disturbance: Disturbance = CALM;
  readonly #clock: Clock;
  readonly #random: Random;
  readonly #parties = new Set<Party>();
  #talking: Span[] = [];

  constructor(clock: Clock, random: Random) {
    this.#clock = clock;
    this.#random = random;
  }

  attach(party: Party): () => void {
    this.#parties.add(party);
    return () => this.#parties.delete(party);
  }

  /** Puts bytes on the line, after what this party is still sending. Returns when the last stop bit ends. */
  transmit(party: Party, bytes: Uint8Array): number {
    const now = this.#clock.now();
    const step = characterUs(party.settings());
    this.#talking = this.#talking.filter(({ endUs }) => endUs > now);
    const startUs = this.#talking.reduce(
      (latest, span) => (span.party === party ? Math.max(latest, span.endUs) : latest),
      now,
    );
    const span: Span = { party, startUs, endUs: startUs + step * bytes.length };
    this.#talking.push(span);
    const settings = party.settings();
    bytes.forEach((byte, i) => {
      const endUs = startUs + step * (i + 1);
      this.#clock.at(endUs, () => this.#deliver(span, byte, settings, endUs - step, endUs));
    });
    for (const other of this.#parties)
      if (other !== party && !sameSettings(other.settings(), settings))
        this.#deliverUnlike(other, bytes, settings, startUs);
    return span.endUs;
  }

  #deliver(from: Span, byte: number, settings: SerialSettings, startUs: number, endUs: number): void {
    const { dropByte, flipBits } = this.disturbance;
    if (dropByte > 0 && this.#random() < dropByte) return;
    let seen = byte;
    let fault: CharacterFault = null;
    if (flipBits > 0 && this.#random() < flipBits) [seen, fault] = this.#damage(byte, settings);
    if (this.#talking.some((span) => span.party !== from.party && span.startUs < endUs && span.endUs > startUs)) {
      seen = pick(this.#random, 256);
      fault = 'framing';
    }
    for (const party of this.#parties) {
      if (party !== from.party && sameSettings(party.settings(), settings)) party.hear(seen, fault);
    }
  }

  /** What an end with other settings hears of one transmission; each character comes at the end of its own stop bit. */
  #deliverUnlike(party: Party, bytes: Uint8Array, settings: SerialSettings, startUs: number): void {
    const own = party.settings();
    const { dropByte, flipBits } = this.disturbance;
    const { characters } = receiveUart(endOf(settings), endOf(own), {
      bytes,
      gapBits: 0,
      idleBeforeBits: 1,
      idleAfterBits: 40,
      inverted: false,
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
