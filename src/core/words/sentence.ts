import { roleActive } from './read';
import type { ControlRole, StatusRole, WordSpec } from './spec';

/**
 * A plain-bit drive's status word in a few words: "in remote, running forward". Only what the sheet gives roles to is said.
 * The most urgent comes first.
 */
export function statusSentence(spec: WordSpec<StatusRole>, word: number): string {
  const is = (role: StatusRole): boolean => roleActive(spec, role, word) === true;
  const not = (role: StatusRole): boolean => roleActive(spec, role, word) === false;
  const parts = [
    is('fault') && 'fault',
    not('remote') ? 'in local' : is('remote') && 'in remote',
    motionOf(is),
    is('at-speed') && is('turning') && 'at speed',
    not('network-command') && 'commands not from the network',
    not('network-reference') && 'reference not from the network',
    is('warning') && 'warning',
  ];
  return parts.filter((part): part is string => typeof part === 'string').join(', ');
}

function motionOf(is: (role: StatusRole) => boolean): string {
  if (is('turning')) return `${is('jogging') ? 'jogging' : 'running'} ${is('backward') ? 'backward' : 'forward'}`;
  if (is('enabled')) return 'enabled, standing';
  return is('ready') ? 'ready, standing' : 'not ready, standing';
}

/** Whether a control word asks the shaft to turn (run or jog), whatever the reference: zero reference is not standstill. */
export const asksToTurn = (spec: WordSpec<ControlRole>, word: number): boolean =>
  roleActive(spec, 'run', word) === true || roleActive(spec, 'jog', word) === true;
