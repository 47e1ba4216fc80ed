import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { benchAt } from '../../../tests/harness/bench';
import { shippedIndex } from '../../../tests/harness/sheets';
import { framingOf } from '../../core/modbus/framing';
import { registerLink } from '../../core/places/register-link';
import type { RunView } from '../../bench/state/runs';
import { beginRun } from '../../core/procedure/run-state';
import { compileTrial } from '../../core/trial/compile';
import { SHIPPED_TRIALS } from '../../core/trial/shipped-trials';
import { RunBar } from './run-bar';

const index = shippedIndex('tern');
const compiled = compileTrial(
  SHIPPED_TRIALS.find(({ id }) => id === 'first-contact')!,
  {
    index,
    places: registerLink(index, framingOf('modbus-rtu')),
    station: 3,
    name: 'kiln fan',
    here: [],
    known: () => undefined,
  },
);

/** The trial was changed just now; what it comes to is worked out when the button is pressed. */
function ChangedJustNow() {
  const [isBehind, setIsBehind] = useState(true);
  return (
    <>
      <button onClick={() => setIsBehind(false)}>worked out</button>
      <RunBar
        compiled={compiled}
        isBehind={isBehind}
        index={index}
        running={null}
        drawing={{ rampS: null, axis: null }}
        off=""
      />
    </>
  );
}

it('is not begun as it was before a change that is not worked out yet, says so, and then is', async () => {
  const { bench, know, show } = benchAt('K1', 3);
  const start = jest.fn(() => 'run');
  Object.assign(bench, { start });
  know({}, true);
  show(<ChangedJustNow />);
  for (const name of [/^Run /, 'Step by step']) {
    await userEvent.click(screen.getByRole('button', { name }));
    expect(screen.getByRole('alert')).toHaveTextContent('First contact was changed just now: press once more');
  }
  expect(start).not.toHaveBeenCalled();
  await userEvent.click(screen.getByRole('button', { name: 'worked out' }));
  await userEvent.click(screen.getByRole('button', { name: /^Run / }));
  expect(start).toHaveBeenCalledTimes(1);
  expect(screen.queryByRole('alert')).toBeNull();
});

it('ends what runs also while nothing is worked out yet, and begins nothing then', async () => {
  const { bench, know, show } = benchAt('K1', 3);
  const tell = jest.fn();
  Object.assign(bench, { tell });
  know({}, true);
  const procedure = compiled.procedure!;
  const running = {
    id: 'run',
    line: bench.state.getState().lineId,
    procedure,
    run: beginRun(procedure, 'run', 0),
    about: { kind: 'none' },
  } as unknown as RunView;
  const bar = (one: RunView | null) => (
    <RunBar compiled={undefined} index={index} running={one} drawing={{ rampS: null, axis: null }} off="" />
  );
  const { unmount } = show(bar(running));
  await userEvent.click(screen.getByRole('button', { name: 'End it, and stop the shaft' }));
  expect(tell).toHaveBeenCalledWith('run', { kind: 'end' });
  unmount();
  show(bar(null));
  expect(screen.queryByRole('button')).toBeNull();
});
