import type { Pairing } from '../pairing';
import type { UssMessage } from './message';
import { ANSWERS_TO, CHANGE_REPORTS, NO_RIGHT, REFUSED, refusalText, TASKS } from './tables';
import { valueOf } from './value';

const other = (why: string): Pairing => ({ kind: 'other', why });

/**
 * Whether a telegram answers another. The parameter answer is looked at by itself (`channelState`): process data come with every telegram,
 * while an answer to a parameter task may take several.
 */
export function pairUss(request: UssMessage, reply: UssMessage): Pairing {
  if (reply.address !== request.address)
    return other(`station ${reply.address} answered, ${request.address} was asked`);
  if (reply.mirror !== request.mirror)
    return other(
      request.mirror ? 'a mirror telegram was sent, another came' : 'a mirror telegram came, another was sent',
    );
  if (reply.broadcast) return other('an answer is never a broadcast');
  if (request.mirror) return same(request, reply) ? { kind: 'answer' } : other('the mirror telegram came back changed');
  if (reply.special !== request.special) return other('one of the two is a special telegram');
  if (reply.pkwWords !== request.pkwWords)
    return other(`a channel of ${reply.pkwWords} words came, ${request.pkwWords} were sent`);
  const state = channelState(request, reply);
  switch (state.kind) {
    case 'refused':
      return { kind: 'exception', code: state.code };
    case 'not-yet':
    case 'older':
    case 'report':
      return request.ak === undefined || request.ak === 0 ? { kind: 'answer' } : { kind: 'pending', why: state.text };
    default:
      return { kind: 'answer' };
  }
}

/** Whether the same answer would fit both telegrams: the process data of any answer fit any request of its size, whatever its task is. */
export const answersAlike = (one: UssMessage, another: UssMessage): boolean =>
  one.address === another.address &&
  one.special === another.special &&
  one.pkwWords === another.pkwWords &&
  (one.mirror || another.mirror ? same(one, another) : true);

const same = (a: UssMessage, b: UssMessage): boolean => JSON.stringify(a) === JSON.stringify(b);

/** What an answer's parameter channel says about the task: done, refused, still empty, or an older task's answer that is repeated. */
export type ChannelState =
  | { readonly kind: 'none' }
  | { readonly kind: 'done' }
  | { readonly kind: 'refused'; readonly code: number; readonly text: string }
  | { readonly kind: 'not-yet'; readonly text: string }
  | { readonly kind: 'older'; readonly text: string }
  | { readonly kind: 'report'; readonly text: string };

/**
 * An answer is repeated until the master sets a new task, so an answer after a new task may still be the old one's: it is told by its number,
 * its index and the kind of answer.
 */
export function channelState(request: UssMessage, reply: UssMessage): ChannelState {
  const { ak: task = 0, pnu = 0, ind = 0 } = request;
  const { ak = 0 } = reply;
  if (CHANGE_REPORTS.has(ak)) return { kind: 'report', text: `parameter ${reply.pnu ?? 0} was changed elsewhere` };
  if (task === 0) return { kind: 'none' };
  if (ak === 0) return { kind: 'not-yet', text: 'the drive has not worked on the task yet' };
  const spec = TASKS[task];
  if (reply.pnu !== pnu)
    return { kind: 'older', text: `the answer is for parameter ${reply.pnu ?? 0}, ${pnu} was asked` };
  if (spec?.array && (reply.ind ?? 0) !== ind)
    return { kind: 'older', text: `the answer is for index word ${reply.ind ?? 0}, ${ind} was asked` };
  if (ak === REFUSED) {
    const code = valueOf(reply, 'response') ?? 0;
    return { kind: 'refused', code, text: refusalText(code) };
  }
  if (ak === NO_RIGHT) return { kind: 'refused', code: 11, text: 'this channel has no right to change parameters' };
  if (!(ANSWERS_TO[task] ?? []).includes(ak))
    return { kind: 'older', text: `an answer of id ${ak} does not belong to task ${task}` };
  const [written, read] = [valueOf(request, 'request'), valueOf(reply, 'response')];
  if (spec && spec.carries !== 'nothing' && written !== null && written !== read)
    return { kind: 'older', text: `the answer repeats ${read ?? 'nothing'}, ${written} was written` };
  return { kind: 'done' };
}
