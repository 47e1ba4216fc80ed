import { dialectProtocol } from '../core/protocol/dialect-protocol';
import type { LineProtocol } from '../core/protocol/line-protocol';
import { modbusProtocol } from '../core/protocol/modbus-protocol';
import { ussProtocol } from '../core/protocol/uss-protocol';
import { framingOf, type ModbusFraming } from '../core/modbus/framing';
import type { SheetIndex } from '../core/sheet/index-sheet';
import { DialectControl } from './dialect-control';
import type { LinePlan } from '../messages/line';
import { ModbusControl } from './modbus-control';
import type { StationControl } from './station-control';
import { UssControl } from './uss-control';

/** How a line speaks: its frames, and what each of its stations needs to be stopped and kept running. */
export interface LineKind {
  readonly protocol: LineProtocol;
  readonly controlOf: (station: number, index: SheetIndex | null) => StationControl;
}

/** What a line of a Modbus framing is made of. */
export const modbusKind = (framing: ModbusFraming): LineKind => ({
  protocol: modbusProtocol(framing),
  controlOf: (station, index) => new ModbusControl(station, index, framing),
});

/** Null where bytes can only be sent and shown: plain text, or commands of which no sheet describes the dialect. */
export function lineKindOf(protocol: LinePlan['protocol'], indices: readonly (SheetIndex | null)[]): LineKind | null {
  switch (protocol) {
    case 'modbus-rtu':
    case 'modbus-ascii':
    case 'modbus-tcp':
      return modbusKind(framingOf(protocol));
    case 'uss':
      return {
        protocol: ussProtocol(indices.find((index) => index?.sheet.uss)?.sheet.uss ?? null),
        controlOf: (station, index) => new UssControl(station, index),
      };
    case 'ascii': {
      const dialect = indices.find((index) => index?.sheet.dialect)?.sheet.dialect;
      if (!dialect) return null;
      return {
        protocol: dialectProtocol(dialect),
        controlOf: (station, index) => new DialectControl(station, index, dialect),
      };
    }
    case 'raw':
      return null;
  }
}
