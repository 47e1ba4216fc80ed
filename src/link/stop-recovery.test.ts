import { k1 } from '../../tests/harness/line';
import { CALM } from '../standin/disturbance';

/** Of sheet Tern: its reply time is the line's time-out. */
const TIMEOUT_US = 60_000;
/** As many as in recovery.test.ts; a file of its own, so that both cores have one of the two. */
const SEEDS = 10_000;
const RUN = '03 06 02C1 000D';

it('Stop says “stopped” of a drive that obeys in 99.5 % at 10 % loss, and never of a shaft that turns', async () => {
  const runs = SEEDS;
  let stopped = 0;
  const lies: number[] = [];
  for (let seed = 1; seed <= runs; seed++) {
    const line = await k1({ seed });
    line.ask(RUN);
    line.ms(500);
    line.yard.bus.disturbance = { ...CALM, loseReply: 0.1, delayReplyUs: seed % 4 === 0 ? TIMEOUT_US : 0 };
    line.master.stop(3);
    const told = () => line.stops[line.stops.length - 1];
    for (let i = 0; i < 400 && !told()?.over; i++) {
      line.ms(50);
      if (told()?.outcomes.some(({ outcome }) => outcome === 'stopped') && line.drive(3).isTurning()) lies.push(seed);
    }
    if (told()?.outcomes.every(({ outcome }) => outcome === 'stopped')) stopped++;
  }
  expect(lies).toEqual([]);
  expect(stopped / runs).toBeGreaterThanOrEqual(0.995);
}, 240_000);
