import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { PhotoStrip } from './photo-strip';

const acts = () => ({ onAdd: jest.fn(), onCaption: jest.fn(), onRemove: jest.fn(), onPutBack: jest.fn() });
const PHOTO = {
  id: 'a',
  of: { of: 'plant' },
  caption: 'the plate',
  atMs: 0,
  width: 4,
  height: 3,
  jpeg: Uint8Array.of(0xff, 0xd8, 0xff, 0xd9),
} as const;
const CALM = { name: 'Alder Ford', isMaking: false, trouble: '', gone: '' };

it('shows each with what it shows, takes a file, a caption, and one away', async () => {
  const all = acts();
  render(<PhotoStrip {...CALM} photos={[PHOTO]} {...all} />);
  expect(screen.getByRole('img', { name: 'the plate' })).toHaveAttribute('src', 'data:image/jpeg;base64,/9j/2Q==');
  const file = new File(['x'], 'a.jpg', { type: 'image/jpeg' });
  await userEvent.upload(screen.getByLabelText('photograph of Alder Ford'), file);
  expect(all.onAdd).toHaveBeenCalledWith(file);
  await userEvent.type(screen.getByLabelText('What photograph 1 shows'), '!');
  expect(all.onCaption).toHaveBeenCalledWith('a', 'the plate!');
  await userEvent.click(screen.getByRole('button', { name: 'Take photograph 1 away' }));
  expect(all.onRemove).toHaveBeenCalledWith('a');
});

it('one that is taken away can be put back, and what failed is said', async () => {
  const all = acts();
  render(<PhotoStrip {...CALM} photos={[]} gone="the plate" trouble="a.txt is no picture" {...all} />);
  expect(screen.getByRole('status')).toHaveTextContent('the plate is taken away.');
  expect(screen.getByText('a.txt is no picture')).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Put it back' }));
  expect(all.onPutBack).toHaveBeenCalled();
});
