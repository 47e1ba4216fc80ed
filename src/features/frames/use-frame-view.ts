'use client';

import { useCallback, useMemo } from 'react';
import { useBench } from '../../bench/bench-context';
import { useCurrent } from '../../bench/use-current';
import type { Field } from '../../core/bytes/field';
import { expectDialect } from '../../core/dialect/expect';
import type { Direction } from '../../core/direction';
import type { ExpectedReply } from '../../core/expected-reply';
import { expectReply } from '../../core/modbus/expect';
import { annotate } from '../../core/sheet/annotate';
import { expectUss } from '../../core/uss/expect';
import { lastReplyTo } from './last-reply';

/** How the frames of the current line are shown and what they should be answered with, whatever the line speaks. */
export interface FrameView {
  readonly fieldsOf: (bytes: Uint8Array, direction: Direction, request: Uint8Array | null) => readonly Field[];
  /** `refusal` is the exception that must come, by the sheet. */
  readonly expected: (request: Uint8Array, refusal: number | null) => ExpectedReply | null;
  readonly nameOf: (station: number) => string | null;
}

export function useFrameView(): FrameView {
  const bench = useBench();
  const { line, index, view, framing, protocol } = useCurrent();
  const nameOf = useCallback(
    (number: number) => line?.stations.find((candidate) => candidate.station === number)?.name ?? null,
    [line],
  );
  return useMemo(() => {
    const lineId = line?.id ?? '';
    const last = (request: Uint8Array): Uint8Array | null =>
      lastReplyTo(bench.state.getState().entries, lineId, request);
    return {
      nameOf,
      fieldsOf: (bytes, direction, request) => {
        if (!protocol) return [];
        const fields = protocol.anatomy(bytes, direction, request);
        if (protocol.family !== 'modbus') return fields;
        const asked = request ? framing.read(request, 'request').message : null;
        return annotate(fields, framing.read(bytes, direction).message, asked, index, nameOf);
      },
      expected: (request, refusal) => {
        const { uss, dialect } = index?.sheet ?? {};
        switch (protocol?.family) {
          case 'modbus':
            return expectReply(framing, request, (address) => view.values.get(address)?.word, refusal);
          case 'uss':
            return expectUss(request, uss ?? null, uss?.parameters ?? [], last(request));
          case 'ascii':
            return dialect ? expectDialect(dialect, request, last(request)) : null;
          case undefined:
            return null;
        }
      },
    };
  }, [bench, framing, index, line, nameOf, protocol, view]);
}
