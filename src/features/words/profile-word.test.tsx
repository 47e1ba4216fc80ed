import { fireEvent, screen } from '@testing-library/react';
import { benchAt } from '../../../tests/harness/bench';
import { WordsStage } from './words-stage';

// IEC 61800-7-201: status x01x 0111 is operation enabled; IEC 61800-7-203: control word 047F, from memory.
it('with no job, a word is read by a published profile, and a doubtful base is offered', () => {
  const { show } = benchAt('K1', 3, { job: null });
  show(<WordsStage />);
  expect(screen.getByText('choose a line and a station in Job to command a drive')).toBeInTheDocument();
  const word = screen.getByLabelText('the word, any base');
  fireEvent.change(word, { target: { value: '0237' } });
  expect(screen.getByTestId('any-word')).toHaveTextContent(/operation enabled/i);
  expect(screen.getByText(/read as hex/)).toHaveTextContent('read as hex; or 237');
  fireEvent.change(screen.getByLabelText('profile'), { target: { value: 'profidrive' } });
  fireEvent.change(screen.getByLabelText('it is a'), { target: { value: 'control' } });
  fireEvent.change(word, { target: { value: '047E' } });
  expect(screen.getByTestId('any-word')).not.toHaveTextContent(/None of the usual words/);
  expect(screen.getByRole('list', { name: 'Bits of the word' })).toHaveTextContent('control by PLC');
  fireEvent.change(word, { target: { value: '12345678h' } });
  expect(screen.queryByTestId('any-word')).toBeNull();
  expect(screen.getByText('12345678h does not fit 16 bits')).toBeInTheDocument();
});
