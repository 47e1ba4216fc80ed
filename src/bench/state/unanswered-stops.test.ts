import { unansweredStops } from './unanswered-stops';

const driven = new Map([['K1', { driven: [3, 7] }]]);
const pressed = { line: 'K1', cause: 'Stop', outcomes: [], over: false };

it('a Stop that nobody took ends, and names every drive that was set in motion', () => {
  const [told] = unansweredStops([pressed], driven, 3);
  expect(told?.over).toBe(true);
  expect(told?.outcomes.map(({ station, outcome }) => `${station} ${outcome}`)).toEqual(['3 not-sent', '7 not-sent']);
  expect(told?.outcomes[0]?.why).toMatch(/does not answer/);
});

it('what was answered, or is over, is left as it is', () => {
  const answered = [
    { ...pressed, outcomes: [{ station: 3, outcome: 'stopped', why: '', atUs: 1 }], over: true },
  ] as const;
  expect(unansweredStops(answered, driven, 3)).toBe(answered);
  const underWay = [{ ...pressed, outcomes: [{ station: 3, outcome: 'under-way', why: '', atUs: null }] }] as const;
  expect(unansweredStops(underWay, driven, 3)).toBe(underWay);
});
