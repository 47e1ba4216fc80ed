/** @example counted(1, 'byte') // '1 byte', counted(3, 'byte') // '3 bytes', counted(2, 'reply', 'replies') // '2 replies' */
export const counted = (count: number, noun: string, plural = `${noun}s`): string =>
  `${count} ${count === 1 ? noun : plural}`;
