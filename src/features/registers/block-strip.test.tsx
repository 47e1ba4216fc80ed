import { render, screen } from '@testing-library/react';
import { MOST_BYTES, MOST_ITEMS, type OwnBlock } from '../../core/process-image/own-block-schema';
import { BlockStrip } from './block-strip';

const block = (items: OwnBlock['items'], size: number): OwnBlock => ({
  id: 'b',
  name: 'B',
  direction: 'to-drive',
  size,
  order: 'big',
  start: 0,
  counts: 'bytes',
  items,
});

it('the largest block is drawn by its beginning, and says so; items that all lie over each other are all there', () => {
  const spread = Array.from({ length: MOST_ITEMS }, (_, i) => ({
    name: `item ${i}`,
    what: '',
    type: 'uint16' as const,
    byte: 2 * i,
  }));
  const { rerender } = render(<BlockStrip block={block(spread, MOST_BYTES)} onItems={() => undefined} />);
  expect(screen.getAllByRole('button')).toHaveLength(64);
  expect(
    screen.getByText(`The first 128 of ${MOST_BYTES} bytes are drawn; the table has all items.`),
  ).toBeInTheDocument();
  const stacked = spread.slice(0, 40).map((item) => ({ ...item, byte: 0 }));
  rerender(<BlockStrip block={block(stacked, 2)} onItems={() => undefined} />);
  const tops = screen.getAllByRole('button').map(({ style }) => style.top);
  expect(new Set(tops).size).toBe(40);
  expect(screen.queryByText(/are drawn; the table/)).toBeNull();
});
