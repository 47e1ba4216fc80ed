import { rtu } from '../../../tests/harness/line';
import { ascii, hex } from '../../../tests/harness/bytes';
import { bytesToHex } from '../bytes/hex';
import { settingsText, type SerialSettings } from './settings';
import { receiveUart } from './uart';
import { explainHeard, mayBeRead, rateHint, USUAL_FORMS, USUAL_RATES, type Heard } from './what-sender';

const at = (rate: number, form = '8E1'): SerialSettings => ({
  rate,
  dataBits: form.startsWith('7') ? 7 : 8,
  parity: form[1] as SerialSettings['parity'],
  stopBits: form.endsWith('2') ? 2 : 1,
});
const end = ({ rate, ...form }: SerialSettings) => ({ ...form, rate: { num: BigInt(rate), den: 1n } });
const POLL = rtu('03 03 0182 0004');

/** What a receiver hears, with its faults counted. */
function hear(
  sender: SerialSettings,
  receiver: SerialSettings,
  bytes: Uint8Array,
  inverted = false,
  gapBits = 0,
): Heard {
  const { characters } = receiveUart(end(sender), end(receiver), {
    bytes,
    gapBits,
    idleBeforeBits: 20,
    idleAfterBits: 40,
    inverted,
  });
  return {
    bytes: characters.map(({ byte }) => byte),
    framingErrors: characters.filter(({ frameError }) => frameError).length,
    parityErrors: characters.filter(({ parityError }) => parityError).length,
  };
}

it('every usual setting is found again from the junk that it makes, itself or among those that look the same', () => {
  const receiver = at(19200);
  const missed: string[] = [];
  for (const rate of USUAL_RATES)
    for (const form of USUAL_FORMS) {
      const sender: SerialSettings = { rate, ...form };
      const heard = hear(sender, receiver, POLL);
      // A sender so fast that its whole frame is a dip to this receiver leaves nothing to explain.
      if (heard.bytes.length < 2) continue;
      const [best] = explainHeard(heard, POLL, receiver);
      const named = best ? [best.sender, ...best.alike].map(settingsText) : [];
      if (best?.fit !== 1 || !named.includes(settingsText(sender))) missed.push(settingsText(sender));
    }
  expect(missed).toEqual([]);
});

it('swapped conductors are told from a wrong rate', () => {
  const [best] = explainHeard(hear(at(19200), at(19200), POLL, true), POLL, at(19200));
  expect(best).toMatchObject({ inverted: true, sender: at(19200) });
});

it('one stop bit or two look the same, and that is said', () => {
  const [best] = explainHeard(hear(at(9600, '8N2'), at(9600, '8N1'), POLL), POLL, at(9600, '8N1'));
  expect([best!.sender, ...best!.alike].map(settingsText)).toEqual(expect.arrayContaining(['9600 8N1', '9600 8N2']));
});

it('where samples fall on edges the set of what may be read is told', () => {
  // At half the sender's rate every sample falls on an edge: a tenth of a percent of clock decides.
  const half = mayBeRead(at(19200, '8N1'), at(9600, '8N1'), ascii('U3'));
  expect(half.sure).toBe(false);
  expect(half.readings.length).toBeGreaterThan(1);
  // At twice and four times the rate samples keep clear of the edges.
  expect(mayBeRead(at(9600, '8N1'), at(19200, '8N1'), ascii('U3')).sure).toBe(true);
  expect(mayBeRead(at(9600, '8N1'), at(38400, '8N1'), ascii('U3')).sure).toBe(true);
});

// Common practice, no source: the junk of the usual mismatches.
it.each<[string, Heard, string]>([
  ['half as fast', hear(at(9600, '8N1'), at(19200, '8N1'), ascii('0123456789 drive')), 'sender-slower-2'],
  ['four times as slow', hear(at(9600, '8N1'), at(38400, '8N1'), ascii('0123456789 drive')), 'sender-slower-4'],
  // Typed characters with pauses between: each is over before the third bit of this receiver.
  ['four times as fast', hear(at(38400, '8N1'), at(9600, '8N1'), ascii('0123456789'), false, 40), 'sender-faster'],
  ['odd against even', hear(at(9600, '8O1'), at(9600, '8E1'), ascii('drive drive')), 'parity'],
  ['the right settings', hear(at(9600, '8N1'), at(9600, '8N1'), ascii('drive drive')), 'none'],
  ['three bytes only', { bytes: [0, 0x78, 0x80], framingErrors: 0, parityErrors: 0 }, 'none'],
])('%s', (_, heard, ratio) => {
  expect(`${bytesToHex(heard.bytes)} ${rateHint(heard).ratio}`).toBe(`${bytesToHex(heard.bytes)} ${ratio}`);
});

it('nothing heard explains nothing, and unrelated bytes are not explained', () => {
  expect(
    explainHeard({ bytes: [], framingErrors: 0, parityErrors: 0 }, POLL, at(19200)).every(({ fit }) => fit < 1),
  ).toBe(true);
  expect(
    explainHeard({ bytes: [...hex('DE AD BE EF 11 22 33 44')], framingErrors: 0, parityErrors: 0 }, POLL, at(19200)),
  ).toEqual([]);
});
