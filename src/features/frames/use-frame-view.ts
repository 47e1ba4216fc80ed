'use client';

import { registerCell } from '../../core/sheet/place';
import { answeredParameters } from '../../core/places/uss-link';
import { useCallback, useMemo } from 'react';
import { useBench } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import type { Base } from '../../core/bytes/copy-forms';
import type { Field } from '../../core/bytes/field';
import type { LineProtocol } from '../../core/protocol/line-protocol';
import { expectDialect } from '../../core/dialect/expect';
import type { Direction } from '../../core/direction';
import type { ExpectedReply } from '../../core/expected-reply';
import { expectReply } from '../../core/modbus/expect';
import { annotate } from '../../core/protocol/annotate-modbus';
import { annotateUss } from '../../core/protocol/annotate-uss';
import { channelWords } from '../../core/uss/parameter';
import { netWords, readUss } from '../../core/uss/telegram';
import { expectUss } from '../../core/uss/expect';
import { lastReplyTo } from './last-reply';

/** How the frames of the current line are shown and what they should be answered with, whatever the line speaks. */
export interface FrameView {
  readonly fieldsOf: (bytes: Uint8Array, direction: Direction, request: Uint8Array | null) => readonly Field[];
  /** `refusal` is the exception that must come, by the sheet; `exchange` the one that is compared with what was expected. */
  readonly expected: (request: Uint8Array, refusal: number | null, exchange: number) => ExpectedReply | null;
  readonly nameOf: (station: number) => string | null;
}

/** Protocols of characters are shown as text first. */
export const firstBaseOf = (protocol: LineProtocol | null): Base => (protocol?.speaksText ? 'text' : 'hex');

export function useFrameView(): FrameView {
  const bench = useBench();
  const { line, index, view, framing, protocol } = useCurrent();
  const nameOf = useCallback(
    (number: number) => line?.stations.find((candidate) => candidate.station === number)?.name ?? null,
    [line],
  );
  return useMemo(() => {
    const lineId = line?.id ?? '';
    const last = (request: Uint8Array, exchange: number): Uint8Array | null =>
      lastReplyTo(bench.state.getState().entries, lineId, request, exchange);
    return {
      nameOf,
      fieldsOf: (bytes, direction, request) => {
        if (!protocol) return [];
        const fields = protocol.anatomy(bytes, direction, request);
        if (protocol.family === 'uss') {
          const words = channelWords(netWords(bytes.length), index?.sheet.uss ?? null);
          return annotateUss(fields, readUss(bytes, words).message, direction, index);
        }
        if (protocol.family !== 'modbus') return fields;
        const asked = request ? framing.read(request, 'request').message : null;
        return annotate(fields, framing.read(bytes, direction).message, asked, index, nameOf);
      },
      expected: (request, refusal, exchange) => {
        const { uss, dialect } = index?.sheet ?? {};
        switch (protocol?.family) {
          case 'modbus':
            return expectReply(
              framing,
              request,
              (address, table) => view.values.get(registerCell(address, table))?.word,
              refusal,
            );
          case 'uss':
            return expectUss(request, uss ?? null, index ? answeredParameters(index) : [], last(request, exchange));
          case 'ascii':
            return dialect ? expectDialect(dialect, request, last(request, exchange)) : null;
          case undefined:
            return null;
        }
      },
    };
  }, [bench, framing, index, line, nameOf, protocol, view]);
}
