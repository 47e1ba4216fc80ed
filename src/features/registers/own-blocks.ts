import type { Bench } from '../../bench/bench';
import { withOne } from '../../core/job/job';
import type { OwnBlock } from '../../core/process-image/own-block-schema';

/** Puts a block of the user's in place of the one with its id, or after the others. */
export const keepBlock = (bench: Bench, block: OwnBlock): boolean =>
  bench.changeJob((job) => ({ ...job, blocks: withOne(job.blocks, block.id, block) }));

/** Takes a block of the user's away; it can be brought back. */
export const dropBlock = (bench: Bench, block: OwnBlock): boolean =>
  bench.changeJob((job) => ({ ...job, blocks: withOne(job.blocks, block.id, undefined) }), {
    text: `${block.name} is deleted`,
    restore: (job) => ({ ...job, blocks: withOne(job.blocks, block.id, block) }),
  });
