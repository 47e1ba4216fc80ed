/** Who speaks: the master asks, the drive responds. */
export type Direction = 'request' | 'response';
