import { hexNumber } from '../bytes/hex';
import { statesOf } from '../profile/profile';
import { roleActive } from '../words/read';
import { statusSentence } from '../words/sentence';
import type { SheetIndex } from '../sheet/index-sheet';

/**
 * A status word in a few words: the state where a standard profile names it ("S3 or S5" where the word leaves it open, and said so where no
 * state looks like it), else what the bits with roles say.
 */
export function statusText({ sheet, words, profile }: SheetIndex, status: number): string {
  if (!words) return hexNumber(status);
  if (!profile || sheet.profile?.kind === 'own') return statusSentence(words.status, status);
  const states = statesOf(profile, status);
  const named = states.map(({ id, shown, name }) =>
    profile.id === 'profidrive' ? `${shown ?? id} ${lower(name)}` : lower(name),
  );
  const parts = [
    states.length === 0 ? 'a status that no state has' : named.join(' or '),
    roleActive(words.status, 'fault', status) === true && states.every(({ name }) => !/fault/i.test(name)) && 'fault',
    roleActive(words.status, 'remote', status) === false && 'the control word is not looked at',
    roleActive(words.status, 'warning', status) === true && 'warning',
  ];
  return parts.filter((part) => typeof part === 'string').join(', ');
}

const lower = (name: string): string => name.charAt(0).toLowerCase() + name.slice(1);
