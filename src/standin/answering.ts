import { pick, type Random } from '../core/random/random';
import type { Clock } from '../core/time/clock';
import type { Party, SerialBus } from './serial-bus';

/** A drive thinks this long before it answers, evenly spread, in microseconds. */
export interface Thinking {
  readonly shortestUs: number;
  readonly longestUs: number;
}

/**
 * Puts an answer on the line after a while, with what the yard's faults do to it: some get lost, some come late, some in another station's
 * name (`foreign` makes such a one).
 */
export function answerLater(
  bus: SerialBus,
  clock: Clock,
  random: Random,
  party: Party,
  reply: Uint8Array,
  { shortestUs, longestUs }: Thinking,
  foreign: (reply: Uint8Array) => Uint8Array,
  isUp: () => boolean,
): void {
  const { loseReply, delayFromUs, delayReplyUs, foreignReply } = bus.disturbance;
  if (loseReply > 0 && random() < loseReply) return;
  const bytes = foreignReply > 0 && random() < foreignReply ? foreign(reply) : reply;
  const thinkUs = shortestUs + pick(random, longestUs - shortestUs);
  const extraUs = delayFromUs + (delayReplyUs > delayFromUs ? pick(random, delayReplyUs - delayFromUs) : 0);
  clock.at(clock.now() + thinkUs + extraUs, () => {
    if (isUp()) bus.transmit(party, bytes);
  });
}
