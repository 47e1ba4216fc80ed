import { onceFor } from './once-for';

it('works once for each, and tells one from another that says the same', () => {
  const work = jest.fn(({ text }: { text: string }) => (text.length === 0 ? '' : `${text}!`));
  const once = onceFor(work);
  const [a, b, empty] = [{ text: 'a' }, { text: 'a' }, { text: '' }];
  expect([once(a), once(a), once(b), once(empty), once(empty)]).toEqual(['a!', 'a!', 'a!', '', '']);
  expect(work).toHaveBeenCalledTimes(3);
});
