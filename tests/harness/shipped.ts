import type { Job } from '../../src/core/job/job';
import type { Sheet } from '../../src/core/sheet/sheet';
import { SHIPPED_FILES } from '../../src/core/shipped/files';
import { readShipped } from '../../src/store/read-shipped';

const SHIPPED = readShipped(SHIPPED_FILES);

export const shippedSheets = (): readonly Sheet[] => SHIPPED.sheets;
export const unlistedSheets = (): readonly Sheet[] => SHIPPED.unlisted;
export const demoJob = (): Job => SHIPPED.demo;
