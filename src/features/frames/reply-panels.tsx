'use client';

import { useMemo } from 'react';
import { useCurrent } from '../../bench/hooks/use-current';
import type { Field } from '../../core/bytes/field';
import type { ExpectedReply } from '../../core/expected-reply';
import { EXCEPTIONS } from '../../core/modbus/exceptions';
import { isGood, OUTCOME_TEXT } from '../../bench/state/outcome-text';
import type { ExchangeOutcome, ExchangeResult } from '../../link/request';
import { ByteStrip } from '../../ui/byte-strip';
import { Panel } from '../../ui/panel';
import styles from './frames.module.css';
import { firstBaseOf, useFrameView } from './use-frame-view';

interface ReplyProps {
  readonly request: Uint8Array;
  /** The exception that must come, by the sheet. */
  readonly refusal: number | null;
  readonly result: ExchangeResult | null;
  readonly waiting: boolean;
  readonly withinMs: number;
}

/**
 * The answer that the drive should give beside the one that it gave. When they are the same byte for byte, one strip says both;
 * what nobody can know yet is a question mark.
 */
export function ReplyPanels({ request, refusal, result, waiting, withinMs }: ReplyProps) {
  const { framing, protocol } = useCurrent();
  const view = useFrameView();
  const numbersFrames = protocol?.family === 'modbus' && framing.id === 'modbus-tcp';
  const sameRequest = result !== null && sameRequestBytes(numbersFrames, request, result.request.bytes);
  const asked = sameRequest && !waiting ? result.request.bytes : request;
  const expected = useMemo(() => view.expected(asked, refusal, result?.exchange ?? 0), [view, asked, refusal, result]);
  const agree =
    sameRequest && !waiting && result.reply !== null && expected !== null && sameBytes(expected.bytes, result.reply);
  return (
    <>
      {!agree && <ExpectedPanel expected={expected} request={request} withinMs={withinMs} />}
      <ActualPanel
        result={result}
        waiting={waiting}
        agree={agree}
        differs={sameRequest ? differences(expected, result.reply) : NOWHERE}
        sameRequest={sameRequest}
      />
    </>
  );
}

/** Over TCP the line fills a transaction number of 0 in, which is no other request. */
const sameRequestBytes = (numbersFrames: boolean, draft: Uint8Array, sent: Uint8Array): boolean => {
  const from = numbersFrames && draft[0] === 0 && draft[1] === 0 ? 2 : 0;
  return sameBytes([...draft.subarray(from)], sent.subarray(from));
};

const NOWHERE: ReadonlySet<number> = new Set();

const sameBytes = (a: readonly (number | null)[], b: Uint8Array): boolean =>
  a.length === b.length && a.every((byte, i) => byte === b[i]);

/** Places of a reply that contradict what was expected; an unknown byte contradicts nothing, and a text of another length cannot be compared. */
function differences(expected: ExpectedReply | null, reply: Uint8Array | null): ReadonlySet<number> {
  if (!expected || !reply) return NOWHERE;
  const comparable = expected.bytes.length === reply.length || !expected.bytes.includes(null);
  if (!comparable) return NOWHERE;
  return new Set([...reply.keys()].filter((at) => expected.bytes[at] !== null && expected.bytes[at] !== reply[at]));
}

function ExpectedPanel({
  expected,
  request,
  withinMs,
}: Pick<ReplyProps, 'request' | 'withinMs'> & { readonly expected: ExpectedReply | null }) {
  const { protocol } = useCurrent();
  const view = useFrameView();
  const fields = useMemo(() => {
    if (!expected) return [];
    const zeroed = Uint8Array.from(expected.bytes, (byte) => byte ?? 0);
    return view.fieldsOf(zeroed, 'response', request).map((field) => blankUnknown(field, expected.bytes));
  }, [expected, view, request]);
  if (!expected) {
    const reading = protocol?.read(request, 'request');
    return (
      <Panel title="◂ Reply that the drive should give">
        {reading?.whole && protocol && !protocol.answers(request)
          ? 'None: every station obeys a broadcast, and nobody answers.'
          : reading?.whole
            ? 'Only the drive knows its length; nothing can be said before it comes.'
            : 'None: this is no whole request yet.'}
      </Panel>
    );
  }
  return (
    <Panel title="◂ Reply that the drive should give" aside={`${expected.text}, within ${withinMs} ms`}>
      <ByteStrip
        firstBase={firstBaseOf(protocol)}
        label="Expected reply"
        bytes={expected.bytes}
        fields={fields}
        direction="received"
        small
      />
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

interface ActualProps {
  readonly result: ExchangeResult | null;
  readonly waiting: boolean;
  readonly agree: boolean;
  readonly differs: ReadonlySet<number>;
  readonly sameRequest: boolean;
}

/** The answer that came, byte for byte, or why there is none. */
function ActualPanel({ result, waiting, agree, differs, sameRequest }: ActualProps) {
  const { protocol, index, view } = useCurrent();
  const { fieldsOf } = useFrameView();
  const shown = useMemo(() => {
    if (!result?.reply || !protocol) return null;
    const { faults, modbus } = protocol.read(result.reply, 'response', result.request.bytes);
    const fields = fieldsOf(result.reply, 'response', result.request.bytes);
    const sentence = protocol.sentence(result.reply, 'response', result.request.bytes, index);
    return { faults, fields, sentence, exception: modbus?.exception, bytes: [...result.reply] };
  }, [result, protocol, fieldsOf, index]);
  if (waiting) return <Panel title="◂ Reply that came">Waiting for the drive …</Panel>;
  if (!result) return <Panel title="◂ Reply that came">Nothing has been sent from here yet.</Panel>;
  const good = isGood(result.outcome);
  return (
    <Panel
      title={agree ? '◂ Reply that came, byte for byte as it should' : '◂ Reply that came'}
      aside={<OutcomeText result={result} good={good} sameRequest={sameRequest} />}
    >
      {shown ? (
        <ByteStrip
          firstBase={firstBaseOf(protocol)}
          label="Reply"
          bytes={shown.bytes}
          fields={shown.fields}
          faults={shown.faults}
          differs={differs}
          direction="received"
          small
        />
      ) : (
        <Advice outcome={result.outcome} misses={view.misses} />
      )}
      {shown?.exception !== undefined && (
        <p>
          {EXCEPTIONS[shown.exception]?.text ??
            'the standard does not have this code; look it up in the drive’s manual'}
        </p>
      )}
      {shown && protocol?.family !== 'modbus' && <p data-testid="reply-sentence">{shown.sentence}</p>}
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
