import fc from 'fast-check';
import { hex } from '../../../tests/harness/bytes';
import { leavesOf, spliceField } from '../bytes/field';
import { bytesToHex } from '../bytes/hex';
import type { Direction } from '../direction';
import { pick, seededRandom } from '../random/random';
import { anatomyUss } from './anatomy';
import { encodeUss, type UssDraft } from './encode';
import type { UssMessage } from './message';
import { channelState, pairUss } from './pairing';
import { channelWords, numberOf, placeOf, readTask, writeTask, type UssRule } from './parameter';
import { probeUss, readUss, sealUss } from './telegram';
import { TASKS } from './tables';
import { actOfTask, kindOfTask, taskId } from './task';
import { channelText, textWords, valueOf } from './value';

/** All vectors here are written from memory of the published description; the BCC of each was formed by hand as the XOR of all before it. */
const built = (draft: UssDraft): Uint8Array => {
  const bytes = encodeUss(draft);
  if (!bytes.ok) throw new Error(bytes.error[0]?.text);
  return bytes.value;
};
const said = (text: string, pkwWords?: number): UssMessage => {
  const { message, faults } = readUss(hex(text), pkwWords);
  expect(faults).toEqual([]);
  if (!message) throw new Error('no message');
  return message;
};

describe('telegrams as the published description has them (from memory)', () => {
  it.each<[string, string, UssDraft]>([
    ['ready word and no reference to station 3', '02 06 03 047E 0000 7D', { address: 3, pzd: [0x047e, 0] }],
    [
      'read parameter 688 of station 4',
      '02 0E 04 12B0 0000 0000 0000 047E 0000 D0',
      { address: 4, ak: 1, pnu: 688, pzd: [0x047e, 0] },
    ],
    [
      'write word 100 to parameter 11',
      '02 0A 04 200B 0000 0000 0064 43',
      { address: 4, ak: 2, pnu: 11, pwe: [0, 100] },
    ],
    ['three words of channel', '02 08 04 200B 0000 0064 41', { address: 4, pkwWords: 3, ak: 2, pnu: 11, pwe: [100] }],
    ['a broadcast', '02 06 20 047F 4000 1F', { address: 0, broadcast: true, pzd: [0x047f, 0x4000] }],
  ])('%s', (_, text, draft) => {
    expect(bytesToHex(built(draft))).toBe(bytesToHex(hex(text)));
    expect(said(text)).toMatchObject(draft);
  });

  it('LGE counts address, net characters and BCC: n + 2, and the whole has n + 4', () => {
    const bytes = built({ address: 1, pzd: [1, 2, 3] });
    expect([bytes[1], bytes.length]).toEqual([6 + 2, 6 + 4]);
  });

  it('address bits', () => {
    expect(said('02 02 C5 C5')).toMatchObject({ address: 5, mirror: true, special: true, broadcast: false });
  });

  it('a 16-bit value stands in the second value word, a 32-bit one in both, high word first', () => {
    const word = { ...said('02 0A 04 100B 0000 0000 0064 73'), pkwWords: 4 };
    expect(valueOf(word, 'response')).toBe(100);
    const double = said('02 0A 04 200B 0000 0001 0002 24');
    expect(valueOf(double, 'response')).toBe(0x10002);
  });

  it('reads a refusal with its text', () => {
    expect(channelText(said('02 0A 04 72B0 0000 0000 0002 CC'), 'response')).toBe(
      'parameter 688 refused: the value is outside its limits',
    );
  });

  it('reads text, two characters to a word', () => {
    expect(channelText(said('02 0C 04 F001 0000 5665 6E74 0000 D2', 5), 'response')).toBe('parameter 1, text “Vent”');
  });
});

describe('faults', () => {
  it.each([
    ['nothing', '', 'too-short', 0, 0],
    ['no STX', '03 06 03 047E 0000 7C', 'missing-start', 0, 1],
    ['a wrong BCC', '02 06 03 047E 0000 7E', 'checksum-mismatch', 7, 8],
    ['cut', '02 06 03 047E 00', 'truncated', 6, 6],
    ['more than LGE says', '02 06 03 047E 0000 7D 00', 'trailing-bytes', 8, 9],
    ['LGE of 1', '02 01 03 00', 'length-mismatch', 1, 2],
    ['LGE of 255', `02 FF 03 ${'00'.repeat(250)}`, 'length-mismatch', 1, 2],
    ['an odd number of net characters', '02 05 03 047E 00 7E', 'length-mismatch', 5, 6],
    ['17 words of process data', `02 24 00 ${'00'.repeat(34)} 26`, 'quantity-out-of-range', 35, 37],
  ])('%s', (_, text, code, start, end) => {
    expect(readUss(hex(text), text.length > 60 ? 0 : undefined).faults).toContainEqual(
      expect.objectContaining({ code, start, end }),
    );
  });

  it('LGE too small with a good check at the very end is LGE’s fault', () => {
    const bytes = hex('02 04 03 047E 0000 7F');
    expect(readUss(bytes).faults.map(({ code }) => code)).toEqual(['length-mismatch']);
    expect(bytesToHex(sealUss(bytes))).toBe(bytesToHex(hex('02 06 03 047E 0000 7D')));
  });

  it.each<[string, UssDraft, string]>([
    ['station 32', { address: 32 }, 'value-out-of-range'],
    ['parameter 2048', { address: 1, ak: 1, pnu: 2048 }, 'value-out-of-range'],
    ['17 words of process data', { address: 1, pzd: new Array<number>(17).fill(0) }, 'quantity-out-of-range'],
    ['a double word in 3 words', { address: 1, pkwWords: 3, ak: 3, pnu: 1, pwe: [1, 2] }, 'value-out-of-range'],
    ['a channel of 2 words', { address: 1, pkwWords: 2, ak: 1, pnu: 1 }, 'value-out-of-range'],
    ['a word of 17 bits', { address: 1, pzd: [65536] }, 'value-out-of-range'],
    ['257 characters', { address: 1, special: true, dataHex: '00'.repeat(253) }, 'too-long'],
  ])('building refuses %s', (_, draft, code) => {
    const result = encodeUss(draft);
    expect(result.ok ? null : result.error[0]?.code).toBe(code);
  });

  it('256 characters are built', () => {
    expect(built({ address: 1, special: true, dataHex: '00'.repeat(252) })).toHaveLength(256);
  });
});

const word = fc.integer({ min: 0, max: 0xffff });
const messages: fc.Arbitrary<UssMessage> = fc
  .record({
    address: fc.integer({ min: 0, max: 31 }),
    mirror: fc.boolean(),
    broadcast: fc.boolean(),
    pkwWords: fc.constantFrom(0, 3, 4, 7),
    ak: fc.integer({ min: 0, max: 15 }),
    spm: fc.boolean(),
    pnu: fc.integer({ min: 0, max: 2047 }),
    ind: word,
    pwe: fc.array(word, { minLength: 5, maxLength: 5 }),
    pzd: fc.array(word, { maxLength: 16 }),
  })
  .map(({ pkwWords, ak, spm, pnu, ind, pwe, pzd, ...head }) => ({
    ...head,
    special: false,
    pkwWords,
    pzd,
    ...(pkwWords === 0
      ? {}
      : { pke: (ak << 12) | (spm ? 0x800 : 0) | pnu, ak, spm, pnu, ind, pwe: pwe.slice(0, pkwWords - 2) }),
  }));

describe('laws', () => {
  it('decode(encode(m)) is m', () => {
    fc.assert(
      fc.property(messages, (message) => {
        const bytes = built(message);
        expect(readUss(bytes, message.pkwWords)).toMatchObject({ faults: [], message });
        expect(probeUss(bytes, 0, bytes.length)).toBe(bytes.length);
      }),
      { seed: 11, numRuns: 1000 },
    );
  });

  it('leaves cover every byte once, and writing a leaf’s own value back changes nothing', () => {
    const damaged = fc.tuple(messages.map(built), fc.nat(60)).map(([bytes, cut]) => bytes.slice(0, cut));
    fc.assert(
      fc.property(
        fc.oneof(messages.map(built), damaged, fc.uint8Array({ maxLength: 80 })),
        fc.constantFrom<Direction>('request', 'response'),
        fc.constantFrom(undefined, 0, 3, 4),
        (bytes, direction, pkwWords) => {
          const leaves = leavesOf(anatomyUss(bytes, direction, pkwWords));
          expect(leaves.flatMap(({ start, end }) => Array.from({ length: end - start }, (_, i) => start + i))).toEqual([
            ...bytes.keys(),
          ]);
          for (const leaf of leaves) {
            if (leaf.codec === 'bytes') continue;
            const spliced = spliceField(bytes, leaf, leaf.value as number);
            expect(spliced.ok && [...spliced.value]).toEqual([...bytes]);
          }
        },
      ),
      { seed: 12, numRuns: 1000 },
    );
  });

  it('one flipped bit is always reported', () => {
    fc.assert(
      fc.property(messages, fc.nat(), (message, at) => {
        const bytes = built(message);
        const bit = at % (8 * bytes.length);
        bytes[bit >> 3] = (bytes[bit >> 3] ?? 0) ^ (1 << (bit & 7));
        expect(readUss(bytes).faults.length).toBeGreaterThan(0);
      }),
      { seed: 13, numRuns: 1000 },
    );
  });

  it('100,000 damaged telegrams: nothing throws, fewer than 1.5/256 are taken for good', () => {
    const RUNS = 100_000;
    const random = seededRandom(14);
    const samples = fc.sample(messages, { seed: 15, numRuns: 200 });
    let accepted = 0;
    for (let i = 0; i < RUNS; i++) {
      const bytes = built(samples[pick(random, samples.length)]!);
      for (let at = 2; at < bytes.length; at++) bytes[at] = pick(random, 256);
      const { faults } = readUss(bytes, 0);
      if (faults.every(({ code }) => code === 'quantity-out-of-range')) accepted++;
      for (const { start, end } of faults)
        if (start < 0 || end < start || end > bytes.length) throw new Error(`run ${i}: ${bytesToHex(bytes)}`);
    }
    process.stdout.write(`USS: heavy damage taken for good: ${accepted} of ${RUNS}\n`);
    expect(accepted / RUNS).toBeLessThan(1.5 / 256);
  });
});

describe('an answer and its task', () => {
  const task = (draft: Partial<UssMessage>): UssMessage =>
    said(bytesToHex(built({ address: 4, ak: 1, pnu: 688, pzd: [0, 0], ...draft })));
  const answer = (draft: Partial<UssMessage>): UssMessage =>
    said(bytesToHex(built({ address: 4, ak: 1, pnu: 688, pzd: [0, 0], ...draft })));

  it.each<[string, Partial<UssMessage>, Partial<UssMessage>, string]>([
    ['a word for a read', {}, { ak: 1, pwe: [0, 5] }, 'done'],
    ['a double word for a read', {}, { ak: 2, pwe: [0, 5] }, 'done'],
    ['an older task’s parameter', {}, { pnu: 11, pwe: [0, 5] }, 'older'],
    ['nothing yet', {}, { ak: 0, pnu: 0 }, 'not-yet'],
    ['a refusal', {}, { ak: 7, pwe: [0, 17] }, 'refused'],
    ['no right', {}, { ak: 8 }, 'refused'],
    ['a change report', {}, { ak: 9, pnu: 11, pwe: [0, 1] }, 'report'],
    ['the write, repeated', { ak: 2, pwe: [0, 7] }, { ak: 1, pwe: [0, 7] }, 'done'],
    ['the read before the write', { ak: 2, pwe: [0, 7] }, { ak: 1, pwe: [0, 6] }, 'older'],
    ['another index of the array', { ak: 6, ind: 0x0200 }, { ak: 4, ind: 0x0100 }, 'older'],
    ['the index of the array', { ak: 6, ind: 0x0200 }, { ak: 4, ind: 0x0200 }, 'done'],
    ['no task', { ak: 0, pnu: 0 }, { ak: 0, pnu: 0 }, 'none'],
  ])('%s', (_, asked, came, kind) => {
    expect(channelState(task(asked), answer(came)).kind).toBe(kind);
  });

  it('another station, and a mirror telegram that came back changed', () => {
    expect(pairUss(task({}), answer({ address: 5 })).kind).toBe('other');
    const mirror = task({ mirror: true });
    expect(pairUss(mirror, mirror).kind).toBe('answer');
    expect(pairUss(mirror, { ...mirror, pnu: 701 }).kind).toBe('other');
  });
});

describe('task ids from the sheet', () => {
  const RULE: UssRule = { pkwWords: 4, pzdWords: 2, indexHalf: 'high', pages: [{ from: 2000, bits: 0x40 }] };
  it.each([
    ['a word', { number: 11, double: false, elements: 1 }, 'working', 2],
    ['a word to be kept', { number: 11, double: false, elements: 1 }, 'kept', 14],
    ['a double word', { number: 11, double: true, elements: 1 }, 'working', 3],
    ['a double word to be kept', { number: 11, double: true, elements: 1 }, 'kept', 13],
    ['an array word', { number: 11, double: false, elements: 4 }, 'working', 7],
    ['an array word to be kept', { number: 11, double: false, elements: 4 }, 'kept', 12],
    ['an array double word', { number: 11, double: true, elements: 4 }, 'working', 8],
    ['an array double word to be kept', { number: 11, double: true, elements: 4 }, 'kept', 11],
  ] as const)('%s', (_, parameter, memory, ak) => {
    expect(writeTask(RULE, 4, parameter, 5, memory, 1)).toMatchObject({
      ok: true,
      value: { draft: { ak, ind: 0x0100 } },
    });
  });

  it('reads of a plain parameter and of an array', () => {
    expect(readTask(RULE, 4, { number: 11, double: true, elements: 1 })).toMatchObject({
      ok: true,
      value: { draft: { ak: 1 } },
    });
    expect(readTask(RULE, 4, { number: 11, double: true, elements: 3 }, 2)).toMatchObject({
      ok: true,
      value: { draft: { ak: 6, ind: 0x0200 } },
    });
  });

  it('pages, in either half of IND, both ways', () => {
    expect(placeOf(RULE, 2010, 3)).toMatchObject({ pnu: 10, ind: 0x0340 });
    expect(numberOf(RULE, 10, 0x0340)).toEqual({ number: 2010, element: 3 });
    const low: UssRule = { ...RULE, indexHalf: 'low' };
    expect(placeOf(low, 2010, 3)).toMatchObject({ pnu: 10, ind: 0x4003 });
    expect(placeOf({ ...RULE, pages: [] }, 2048)).toBeNull();
  });

  it('a double word does not fit a channel of 3 words, and that is said', () => {
    expect(writeTask({ ...RULE, pkwWords: 3 }, 4, { number: 11, double: true, elements: 1 }, 5, 'working').ok).toBe(
      false,
    );
  });
});

describe('tasks and texts', () => {
  // The published description, from memory: each id is one act on one kind of parameter.
  it('every task id that is used belongs to one act, and comes back', () => {
    for (const id of Object.keys(TASKS).map(Number)) {
      const act = actOfTask(id);
      if (id === 0) expect(act).toBeNull();
      else {
        const { double, array } = kindOfTask(id);
        expect(act && taskId(act, { double, elements: array ? 4 : 1 })).toBe(id);
      }
    }
    expect(actOfTask(10)).toBeNull();
  });

  it.each([
    ['', []],
    ['A', [0x4100]],
    ['Vent', [0x5665, 0x6e74]],
    ['Köln', [0x4bf6, 0x6c6e]],
    ['5 €', null],
  ])('the text “%s” in words', (text, words) => {
    expect(textWords(text)).toEqual(words);
  });

  it('the channel is what the process data of the sheet leave', () => {
    const rule = { pkwWords: 4, pzdWords: 2 } as const;
    expect([2, 5, 6, 9, 126].map((words) => channelWords(words, rule))).toEqual([0, 3, 4, 7, 124]);
    expect([1, 3, 4].map((words) => channelWords(words, rule))).toEqual([undefined, undefined, undefined]);
    expect(channelWords(6, null)).toBeUndefined();
  });
});
