import type { ParameterRole } from '../sheet/parameter-section';

/** What follows where a setting is not what somebody thought, by its role. Common practice, no source. */
const FOLLOWS: Readonly<Partial<Record<ParameterRole, string>>> = {
  'command-source': 'who starts and stops it is another: a run word may be confirmed and not acted on',
  'reference-source': 'what sets its speed is another: a reference may be confirmed and not acted on',
  selector: 'a switch at the drive says who commands it',
  'minimum-speed': 'a reference below the lowest speed is lifted to it',
  'maximum-speed': 'a reference above the highest speed is cut to it, or everything is scaled otherwise',
  'ramp-time': 'it takes another time to reach its speed, and to stop by the ramp',
  'watchdog-time': 'it waits another time for the link before it acts',
  'watchdog-action': 'it does something else when the link is lost',
  'skip-from': 'speeds in the gap are not held',
  'skip-to': 'speeds in the gap are not held',
  'direction-lock': 'one direction may be barred',
  'reference-form': 'the same number means another speed or direction',
  'end-inputs': 'travel ends elsewhere, or not at all',
  'motor-poles': 'speeds in rpm are worked out otherwise',
  'jog-speed': 'it creeps at another speed',
  mode: 'the same words mean something else',
};

/** What a different value of a role leads to, in a sentence; empty where nothing is known. */
export const followsFrom = (role: ParameterRole | undefined): string => (role && FOLLOWS[role]) ?? '';
