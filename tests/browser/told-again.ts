import { test as base } from '@playwright/test';
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';

/** What the kernel counts of all processors' time since the computer started, in its ticks (Linux, proc(5), the first line of `/proc/stat`). */
interface ProcessorTime {
  readonly busy: number;
  /** Asked for, and given to other computers on the same machine. */
  readonly stolen: number;
}

const PROC = '/proc/stat';

/** Null where the system does not say it: then no story is told again. */
function processorTime(): ProcessorTime | null {
  if (!existsSync(PROC)) return null;
  const [user = 0, nice = 0, system = 0, , , irq = 0, softirq = 0, stolen = 0] = (
    readFileSync(PROC, 'utf8').split('\n')[0] ?? ''
  )
    .split(/\s+/)
    .slice(1)
    .map(Number);
  return { busy: user + nice + system + irq + softirq, stolen };
}

/**
 * A story runs in real time: drives miss the bench when the computer itself is withheld. So much of the asked-for time may be stolen; beyond it a failure
 * says nothing of the program, and the story is told again. A story that fails with the computer at hand has failed.
 */
const MOST_STOLEN = 0.2;

function stolenShare(before: ProcessorTime | null, after: ProcessorTime | null): number {
  if (!before || !after) return 0;
  const [busy, stolen] = [after.busy - before.busy, after.stolen - before.stolen];
  return busy + stolen > 0 ? stolen / (busy + stolen) : 0;
}

/** Tests that are told again only where the computer was withheld while they failed. */
export const test = base.extend<{ toldAgain: void }>({
  toldAgain: [
    async ({}, use, info) => {
      const { retry, testId, title, project } = info;
      const mark = path.join(project.outputDir, `withheld-${testId}`);
      if (retry > 0 && !existsSync(mark))
        throw new Error('It is not told again: the computer was at hand when it failed.');
      rmSync(mark, { force: true });
      const before = processorTime();
      await use();
      const share = stolenShare(before, processorTime());
      // What it ended in is known only now.
      if (info.status === info.expectedStatus || share <= MOST_STOLEN) return;
      writeFileSync(mark, title);
      process.stdout.write(
        `“${title}” is told again: ${Math.round(100 * share)} % of the processors’ time was withheld from it.\n`,
      );
    },
    { auto: true },
  ],
});
