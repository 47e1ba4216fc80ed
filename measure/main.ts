import { captureBench } from './capture';
import { codecBench } from './codec';
import { missed } from './measure';
import { pageBench } from './page';
import { heapBench, pollingBench } from './polling';
import { traceBench } from './trace';

/** All figures of one run; ratios only, for a machine's speed is nobody's merit. `--day` watches a virtual day, some ten minutes of this computer, instead of an hour. */
codecBench();
await captureBench();
traceBench();
await pollingBench();
await heapBench(process.argv.includes('--day'));
await pageBench();
if (missed().length > 0) process.exitCode = 1;
