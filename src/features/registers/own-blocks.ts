import type { Bench } from '../../bench/bench';
import type { OwnBlock } from '../../core/process-image/own-block';

/** Puts a block of the user's in place of the one with its id, or after the others. */
export const keepBlock = (bench: Bench, block: OwnBlock): boolean =>
  bench.changeJob((job) => {
    const { blocks = [] } = job;
    return {
      ...job,
      blocks: blocks.some(({ id }) => id === block.id)
        ? blocks.map((one) => (one.id === block.id ? block : one))
        : [...blocks, block],
    };
  });

/** Takes a block of the user's away; it can be brought back. */
export const dropBlock = (bench: Bench, block: OwnBlock): boolean =>
  bench.changeJob((job) => ({ ...job, blocks: (job.blocks ?? []).filter(({ id }) => id !== block.id) }), {
    text: `${block.name} is deleted`,
    restore: (job) => ({ ...job, blocks: [...(job.blocks ?? []), block] }),
  });
