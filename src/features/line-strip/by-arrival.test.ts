import { byArrival } from './by-arrival';

it('what comes stands above what is there, and what is there keeps its order', () => {
  let order = byArrival<string>([], ['change']);
  order = byArrival(order, ['stop', 'change']);
  expect(order).toEqual(['stop', 'change']);
  order = byArrival(order, ['stop', 'refused', 'change']);
  expect(order).toEqual(['refused', 'stop', 'change']);
  order = byArrival(order, ['refused', 'change']);
  expect(order).toEqual(['refused', 'change']);
  expect(byArrival(order, ['stop', 'trouble', 'refused', 'change'])).toEqual(['stop', 'trouble', 'refused', 'change']);
});

it('is the same list where nothing came or went', () => {
  const order = byArrival<string>([], ['stop', 'change']);
  expect(byArrival(order, ['stop', 'change'])).toBe(order);
  expect(byArrival(order, ['change', 'stop'])).toBe(order);
});
