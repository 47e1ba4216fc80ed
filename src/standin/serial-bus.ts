import { characterUs, type SerialSettings } from '../core/line/settings';
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

/**
 * A half-duplex line on the given clock: everyone hears everyone else, a character takes its time, two talkers at once spoil each other.
 * Ends with unlike settings hear junk; which junk exactly is a matter for a bit-level model, which this is not.
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
      if (party === from.party) continue;
      if (sameSettings(party.settings(), settings)) party.hear(seen, fault);
      else party.hear(pick(this.#random, 256), 'framing');
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
