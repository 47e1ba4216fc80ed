/** One read of registers that stand together. */
export interface ReadPlan {
  readonly address: number;
  readonly quantity: number;
}

/** Registers of one read at most (Modbus Application Protocol V1.1b3, 6.3). */
const MOST = 125;

/**
 * The fewest reads that cover the wanted registers. A read runs over registers in between only where `exists` says that they are there,
 * for one missing register makes the drive refuse the whole read, and only up to `maxGap` unwanted ones; `most` is what one read of the table brings.
 */
export function planReads(
  wanted: readonly number[],
  exists: (address: number) => boolean,
  { most = MOST, maxGap = 8 }: { readonly most?: number; readonly maxGap?: number } = {},
): readonly ReadPlan[] {
  const plans: ReadPlan[] = [];
  for (const address of [...new Set(wanted)].sort((a, b) => a - b)) {
    const last = plans[plans.length - 1];
    const end = last ? last.address + last.quantity : -1;
    const gap = address - end;
    const bridged = gap <= maxGap && Array.from({ length: Math.max(0, gap) }, (_, i) => end + i).every(exists);
    if (last && bridged && address - last.address < most)
      plans[plans.length - 1] = { address: last.address, quantity: address - last.address + 1 };
    else plans.push({ address, quantity: 1 });
  }
  return plans;
}
