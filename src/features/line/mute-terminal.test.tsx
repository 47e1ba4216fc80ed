import { Terminal } from '@xterm/xterm';
import { muteTerminal } from './mute-terminal';

// The terminal measures its characters on a canvas, which is not there in tests and not needed for its parser.
beforeEach(() => jest.spyOn(HTMLCanvasElement.prototype, 'getContext').mockReturnValue(null));

const ESC = '\u001b';

/** Everything that a device could send to make a terminal talk. */
const QUESTIONS: readonly (readonly [string, string])[] = [
  ['status', `${ESC}[5n`],
  ['place of the cursor', `${ESC}[6n`],
  ['place, DEC', `${ESC}[?6n`],
  ['kind', `${ESC}[c`],
  ['kind, second', `${ESC}[>c`],
  ['kind, third', `${ESC}[=c`],
  ['kind, old', `${ESC}Z`],
  ['version', `${ESC}[>q`],
  ['a mode', `${ESC}[4$p`],
  ['a mode, DEC', `${ESC}[?25$p`],
  ['size in characters', `${ESC}[18t`],
  ['title', `${ESC}[21t`],
  ['parameters', `${ESC}[x`],
  ['a setting', `${ESC}P$qm${ESC}\\`],
  ['a capability', `${ESC}P+q544e${ESC}\\`],
  ['a colour', `${ESC}]4;1;?${ESC}\\`],
  ['the colour of text', `${ESC}]10;?${ESC}\\`],
  ['the colour behind it', `${ESC}]11;?\u0007`],
  ['the colour of the cursor', `${ESC}]12;?\u0007`],
  ['answerback', '\u0005'],
];

const said = async (text: string, mute: boolean): Promise<string> => {
  const terminal = new Terminal({ allowProposedApi: true });
  if (mute) muteTerminal(terminal);
  let out = '';
  terminal.onData((data) => (out += data));
  terminal.onBinary((data) => (out += data));
  await new Promise<void>((resolve) => terminal.write(text, resolve));
  terminal.dispose();
  return out;
};

it.each(QUESTIONS)('%s: nothing goes out that nobody typed', async (_, question) => {
  expect(await said(question, true)).toBe('');
});

it('is worth something: without it some of them are answered', async () => {
  const answers = await Promise.all(QUESTIONS.map(([, question]) => said(question, false)));
  expect(answers.filter((answer) => answer !== '').length).toBeGreaterThan(4);
});

it('reports of mouse and focus stay off, and plain text is shown as it is', async () => {
  const terminal = new Terminal({ allowProposedApi: true });
  muteTerminal(terminal);
  await new Promise<void>((resolve) =>
    terminal.write(`${ESC}[?1000h${ESC}[?1003h${ESC}[?1006h${ESC}[?1004hREADY`, resolve),
  );
  expect(terminal.modes.mouseTrackingMode).toBe('none');
  expect(terminal.modes.sendFocusMode).toBe(false);
  expect(terminal.buffer.active.getLine(0)?.translateToString(true)).toBe('READY');
  terminal.dispose();
});
