import dynamic from 'next/dynamic';

/** The parts of the Line stage in the order of the work; each comes when it is looked at. */
export const PARTS = [
  { id: 'ends', name: 'Both ends', Body: dynamic(() => import('./ends-part').then((part) => part.EndsPart)) },
  { id: 'doctor', name: 'Doctor', Body: dynamic(() => import('./doctor-part').then((part) => part.DoctorPart)) },
  { id: 'sweep', name: 'Sweeps', Body: dynamic(() => import('./sweep-part').then((part) => part.SweepPart)) },
  { id: 'time', name: 'Time', Body: dynamic(() => import('./time-part').then((part) => part.TimePart)) },
  { id: 'keypad', name: 'Keypad card', Body: dynamic(() => import('./keypad-part').then((part) => part.KeypadPart)) },
  { id: 'cable', name: 'Cable', Body: dynamic(() => import('./cable-part').then((part) => part.CablePart)) },
  { id: 'ip', name: 'Addresses', Body: dynamic(() => import('./address-part').then((part) => part.AddressPart)) },
  { id: 'wiring', name: 'Wiring', Body: dynamic(() => import('./wiring-part').then((part) => part.WiringPart)) },
  {
    id: 'terminal',
    name: 'Terminal',
    Body: dynamic(() => import('./terminal-part').then((part) => part.TerminalPart), { ssr: false }),
  },
] as const;
