'use client';

import { useMemo } from 'react';
import type { Field } from '../../core/bytes/field';
import { expectReply, type ExpectedReply } from '../../core/modbus/expect';
import type { ModbusFraming } from '../../core/modbus/framing';
import { EXCEPTIONS } from '../../core/modbus/exceptions';
import { annotate } from '../../core/sheet/annotate';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { StationView } from '../../bench/live-values';
import { isGood, OUTCOME_TEXT } from '../../bench/outcome-text';
import type { ExchangeOutcome, ExchangeResult } from '../../link/request';
import { ByteStrip } from '../../ui/byte-strip';
import { Panel } from '../../ui/panel';
import styles from './frames.module.css';

interface ReplyProps {
  readonly request: Uint8Array;
  readonly framing: ModbusFraming;
  /** The exception that must come, by the sheet. */
  readonly refusal: number | null;
  readonly result: ExchangeResult | null;
  readonly waiting: boolean;
  readonly view: StationView;
  readonly index: SheetIndex | null;
  readonly nameOf: (station: number) => string | null;
  readonly withinMs: number;
}

/**
 * The answer that the drive should give beside the one that it gave. When they are the same byte for byte, one strip says both;
 * what nobody can know yet is a question mark.
 */
export function ReplyPanels(props: ReplyProps) {
  const { request, framing, refusal, result, view, waiting } = props;
  const sameRequest = result !== null && sameRequestBytes(framing, request, result.request.bytes);
  const asked = sameRequest && !waiting ? result.request.bytes : request;
  const expected = useMemo(
    () => expectReply(framing, asked, (address) => view.values.get(address)?.word, refusal),
    [framing, asked, view, refusal],
  );
  const agree =
    sameRequest && !waiting && result.reply !== null && expected !== null && sameBytes(expected.bytes, result.reply);
  return (
    <>
      {!agree && <ExpectedPanel {...props} expected={expected} />}
      <ActualPanel
        {...props}
        agree={agree}
        differs={sameRequest ? differences(expected, result.reply) : NOWHERE}
        sameRequest={sameRequest}
      />
    </>
  );
}

/** The line fills a transaction number of 0 in, which is no other request. */
const sameRequestBytes = (framing: ModbusFraming, draft: Uint8Array, sent: Uint8Array): boolean => {
  const from = framing.id === 'modbus-tcp' && draft[0] === 0 && draft[1] === 0 ? 2 : 0;
  return sameBytes([...draft.subarray(from)], sent.subarray(from));
};

const NOWHERE: ReadonlySet<number> = new Set();

const sameBytes = (a: readonly (number | null)[], b: Uint8Array): boolean =>
  a.length === b.length && a.every((byte, i) => byte === b[i]);

/** Places of a reply that contradict what was expected; an unknown byte contradicts nothing. */
function differences(expected: ExpectedReply | null, reply: Uint8Array | null): ReadonlySet<number> {
  if (!expected || !reply) return NOWHERE;
  return new Set([...reply.keys()].filter((at) => expected.bytes[at] !== null && expected.bytes[at] !== reply[at]));
}

function ExpectedPanel({
  expected,
  request,
  framing,
  index,
  nameOf,
  withinMs,
}: ReplyProps & { readonly expected: ExpectedReply | null }) {
  const fields = useMemo(() => {
    if (!expected) return [];
    const zeroed = Uint8Array.from(expected.bytes, (byte) => byte ?? 0);
    const reading = framing.read(zeroed, 'response');
    const asked = framing.read(request, 'request').message;
    return annotate(framing.anatomy(zeroed, reading), reading.message, asked, index, nameOf).map((field) =>
      blankUnknown(field, expected.bytes),
    );
  }, [expected, framing, request, index, nameOf]);
  if (!expected)
    return (
      <Panel title="◂ Reply that the drive should give">
        {request[framing.head] === 0
          ? 'None: every station obeys a broadcast, and nobody answers.'
          : 'None: this is no whole request yet.'}
      </Panel>
    );
  return (
    <Panel title="◂ Reply that the drive should give" aside={`${expected.text}, within ${withinMs} ms`}>
      <ByteStrip label="Expected reply" bytes={expected.bytes} fields={fields} direction="received" small />
    </Panel>
  );
}

/** A field with an unknown byte says so instead of the meaning of zero. */
function blankUnknown(field: Field, bytes: readonly (number | null)[]): Field {
  const unknown = bytes.slice(field.start, field.end).includes(null);
  return {
    ...field,
    text: unknown && !field.children ? 'not known yet' : field.text,
    ...(field.children ? { children: field.children.map((child) => blankUnknown(child, bytes)) } : {}),
  };
}

interface ActualProps extends ReplyProps {
  readonly agree: boolean;
  readonly differs: ReadonlySet<number>;
  readonly sameRequest: boolean;
}

/** The answer that came, byte for byte, or why there is none. */
function ActualPanel({ result, waiting, framing, index, nameOf, view, agree, differs, sameRequest }: ActualProps) {
  const shown = useMemo(() => {
    if (!result?.reply) return null;
    const reading = framing.read(result.reply, 'response');
    const fields = annotate(framing.anatomy(result.reply, reading), reading.message, result.asked, index, nameOf);
    return { reading, fields, bytes: [...result.reply] };
  }, [result, framing, index, nameOf]);
  if (waiting) return <Panel title="◂ Reply that came">Waiting for the drive …</Panel>;
  if (!result) return <Panel title="◂ Reply that came">Nothing has been sent from here yet.</Panel>;
  const good = isGood(result.outcome);
  const exception = shown?.reading.message?.exception;
  return (
    <Panel
      title={agree ? '◂ Reply that came, byte for byte as it should' : '◂ Reply that came'}
      aside={<OutcomeText result={result} good={good} sameRequest={sameRequest} />}
    >
      {shown ? (
        <ByteStrip
          label="Reply"
          bytes={shown.bytes}
          fields={shown.fields}
          faults={shown.reading.faults}
          differs={differs}
          direction="received"
          small
        />
      ) : (
        <Advice outcome={result.outcome} misses={view.misses} />
      )}
      {exception !== undefined && (
        <p>{EXCEPTIONS[exception]?.text ?? 'the standard does not have this code; look it up in the drive’s manual'}</p>
      )}
    </Panel>
  );
}

function OutcomeText({
  result,
  good,
  sameRequest,
}: {
  readonly result: ExchangeResult;
  readonly good: boolean;
  readonly sameRequest: boolean;
}) {
  return (
    <>
      <span className={good ? styles.good : styles.bad} data-testid="reply-outcome">
        {OUTCOME_TEXT[result.outcome]}
      </span>
      {result.reply && ` ${((result.endedUs - result.sentUs) / 1000).toFixed(1)} ms after the request`}
      {!sameRequest && ', to the request as it was before this edit'}
    </>
  );
}

const ADVICE: Readonly<Partial<Record<ExchangeOutcome, string>>> = {
  timeout: 'Is the station number right, is the drive powered, and were its link settings made active by a restart?',
  damaged: 'Check rate and parity at both ends, the terminators, and whether two drives have the same station number.',
  foreign: 'Two drives may share a station number, or an old answer came. The trace shows its bytes.',
};

function Advice({ outcome, misses }: { readonly outcome: ExchangeOutcome; readonly misses: number }) {
  return (
    <p>
      {ADVICE[outcome] ?? ''} {misses > 1 && `This is miss ${misses} in a row.`}
    </p>
  );
}
