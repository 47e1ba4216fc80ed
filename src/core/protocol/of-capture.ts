import type { Dialect } from '../dialect/dialect';
import { framingOf, RTU, TCP } from '../modbus/framing';
import type { CaptureProtocol } from '../capture/capture-plan';
import { dialectProtocol } from './dialect-protocol';
import type { LineProtocol } from './line-protocol';
import { modbusProtocol } from './modbus-protocol';
import { ussProtocol } from './uss-protocol';

/** What a frame of a capture speaks; those of a packet file's connections are Modbus TCP, whatever the serial bytes beside them speak. */
export function protocolOfCapture(protocol: CaptureProtocol, dialect: Dialect | undefined, tcp: boolean): LineProtocol {
  if (tcp) return modbusProtocol(TCP);
  if (protocol === 'uss') return ussProtocol(null);
  if (protocol === 'dialect') return dialect ? dialectProtocol(dialect) : modbusProtocol(RTU);
  return modbusProtocol(framingOf(protocol));
}
