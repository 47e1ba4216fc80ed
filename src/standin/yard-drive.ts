import type { LinkEnd } from './serial-station';

/** Where the person at the drive has a hand: the things that no network can do. */
export interface Hands {
  readonly selector: 'local' | 'remote';
  /** A fault's cause is there as long as this is its code; 0 = none. */
  readonly liveFault: number;
}

/** A simulated drive, whatever it speaks. */
export interface YardDrive {
  readonly link: () => LinkEnd;
  /** Powered and done with its start. */
  readonly isUp: () => boolean;
  readonly isTurning: () => boolean;
  readonly heardBreak: (us: number) => void;
  readonly setHands: (hands: Hands) => void;
  readonly powerOff: () => void;
  readonly powerCycle: () => void;
}
