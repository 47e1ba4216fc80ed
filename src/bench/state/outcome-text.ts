import type { ExchangeOutcome } from '../../link/request';

/** How an exchange ended, in words, with its mark. */
export const OUTCOME_TEXT: Readonly<Record<ExchangeOutcome, string>> = {
  answered: '✓ answered',
  exception: '✗ refused',
  unconfirmed: '✗ answered, but not to this task: whether it was done is not known',
  'may-be-late': '✗ may be late: it fits an earlier request too, so no value was taken from it',
  timeout: '✗ no answer within the time-out',
  damaged: '✗ only damaged bytes came',
  foreign: '✗ another station or function answered',
  sent: '✓ sent to all stations, nobody answers',
  abandoned: '✗ taken back',
  closed: '✗ not sent: the line is closed',
};

/** Whether an exchange came to what was wanted: an answer, or for a broadcast that it left. */
export const isGood = (outcome: ExchangeOutcome): boolean => outcome === 'answered' || outcome === 'sent';
