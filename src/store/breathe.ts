/** Ends the present task, so that whatever waits (an answer to a key, a message, a drawing) has its turn between two parts of long work. */
export const breathe = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));
