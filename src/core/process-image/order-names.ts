import type { ImageOrder } from './image';

/** How the bytes of a block come, in words. */
export const ORDER_NAMES: Readonly<Record<ImageOrder, string>> = {
  big: 'high byte first',
  little: 'low byte first',
  'big-swapped-words': 'high byte first, words of 32 bits swapped',
  'little-swapped-words': 'low byte first, words of 32 bits swapped',
};
