/** Shelves that the first view does without: they come together, with the first use of one. */
export { lookShelf } from './look-shelf';
export { recordShelf } from './record-shelf';
export { roomOf } from './room';
export { setShelf } from './set-shelf';
export { trialShelf } from './trial-shelf';
