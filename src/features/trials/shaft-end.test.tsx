import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { FACING, SHAFT_WAYS, type PersonStep } from '../../core/procedure/procedure';
import { PersonAnswer } from './run-asks';

it('which way a shaft turns is answered by a picture, whose way stands beside it in words', async () => {
  const step: PersonStep = {
    kind: 'person',
    text: FACING,
    question: FACING,
    picture: 'shaft',
    choices: SHAFT_WAYS.map((name) => ({ name, goesOn: name === 'clockwise' })),
  };
  const said: string[] = [];
  const { container } = render(<PersonAnswer step={step} onAnswer={(answer) => said.push(answer)} />);
  expect(screen.getAllByRole('button').map((button) => button.textContent)).toEqual(SHAFT_WAYS);
  // What cannot be seen has no picture; the two ways are drawn the other way round.
  const arrows = [...container.querySelectorAll('svg')].map((picture) =>
    picture.querySelector(':scope > path')?.getAttribute('transform'),
  );
  expect(arrows).toEqual([null, 'matrix(-1 0 0 1 48 0)', undefined]);
  await userEvent.click(screen.getByRole('button', { name: 'counter-clockwise' }));
  expect(said).toEqual(['counter-clockwise']);
});
