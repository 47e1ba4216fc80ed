/** @example counted(1, 'byte') // '1 byte', counted(3, 'byte') // '3 bytes' */
export const counted = (count: number, noun: string): string => `${count} ${noun}${count === 1 ? '' : 's'}`;
