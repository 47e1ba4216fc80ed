import { columnsText, frameText, readColumns, readFrame } from './millimetres';

it('reads a frame in millimetres as points and shows it so again', () => {
  // An inch is 25.4 mm and 72 points.
  expect(readFrame('25.4 50.8 76.2 101.6')).toEqual({
    x: expect.closeTo(72) as number,
    y: expect.closeTo(144) as number,
    width: expect.closeTo(144) as number,
    height: expect.closeTo(144) as number,
  });
  expect(frameText({ x: 72, y: 144, width: 144, height: 144 })).toBe('25.4 50.8 76.2 101.6');
  expect(frameText(null)).toBe('');
});

it.each(['25 50 76', '25 50 20 100', '25 100 76 50', 'left', '-1 0 10 10', '1 2 3 4 5'])(
  'says what a frame is at %j',
  (text) => {
    expect(readFrame(text)).toMatch(/^left, top, right and bottom in mm/);
  },
);

it('reads columns in any order, with a comma or a point', () => {
  expect(readColumns('50,8 25.4')).toEqual([72, 144]);
  expect(columnsText([72, 144])).toBe('25.4 50.8');
  expect(readColumns(' ')).toMatch(/^where each column begins/);
  expect(readColumns('x')).toMatch(/^where each column begins/);
});
