import dynamic from 'next/dynamic';
import { ComposePart } from './compose-part';

/** The parts of the Frames stage; each but the first comes when it is looked at. */
export const PARTS = [
  { id: 'compose', name: 'Compose', Body: ComposePart },
  { id: 'kept', name: 'Kept frames', Body: dynamic(() => import('./kept-part').then((part) => part.KeptPart)) },
  { id: 'capture', name: 'Capture', Body: dynamic(() => import('./capture-part').then((part) => part.CapturePart)) },
  {
    id: 'unknown',
    name: 'Unknown bytes',
    Body: dynamic(() => import('./unknown-part').then((part) => part.UnknownPart)),
  },
  { id: 'dialect', name: 'Dialect', Body: dynamic(() => import('./dialect-part').then((part) => part.DialectPart)) },
] as const;
