import type { ModbusFraming } from '../../core/modbus/framing';
import type { ModbusMessage } from '../../core/modbus/message';
import { registerWay, type SheetIndex } from '../../core/sheet/index-sheet';
import type { ParameterRole } from '../../core/sheet/parameter-section';
import type { PlaceOf } from '../../core/sheet/place';
import { askFor, HAS_REGISTER_FORM } from './message-fields';

export const isWrite = (fc: number): boolean => fc === 6 || fc === 16;

/** The first request of a station: its status block, harmless; without a sheet register 0. */
export function firstRequest(framing: ModbusFraming, station: number, index: SheetIndex | null): Uint8Array {
  const wayOf = (role: ParameterRole): PlaceOf<'register'> | undefined => {
    const place = index?.byRole.get(role);
    return place && registerWay(place);
  };
  const [status, speed] = [wayOf('status-word'), wayOf('actual-speed')];
  const far = status && speed && speed.table === status.table ? speed.address - status.address : 0;
  const fc = status?.table === 'input-register' ? 4 : 3;
  const quantity = far > 0 && far < 20 ? far + 1 : 1;
  return frameOf(framing, { unit: station, fc, address: status?.address ?? 0, quantity }) ?? new Uint8Array(0);
}

export function frameOf(framing: ModbusFraming, message: ModbusMessage): Uint8Array | null {
  const built = framing.encode(message, 'request');
  return built.ok ? built.value : null;
}

/**
 * The same request with one thing changed. A change of function keeps address and value where both have them.
 * Null where the standard does not allow the result.
 */
export function withChange(
  framing: ModbusFraming,
  bytes: Uint8Array,
  change: Partial<ModbusMessage>,
): Uint8Array | null {
  const { message } = framing.read(bytes, 'request');
  if (!message) return null;
  const next = { ...message, ...change };
  if (!HAS_REGISTER_FORM.has(next.fc)) return frameOf(framing, otherRequest(message, next));
  const { unit, fc, address = 0, quantity, values, transactionId = 0 } = next;
  if (!isWrite(fc))
    return frameOf(framing, { transactionId, unit, fc, address, quantity: quantity ?? values?.length ?? 1 });
  const count = fc === 6 ? 1 : (quantity ?? values?.length ?? 1);
  const words = Array.from({ length: count }, (_, i) => values?.[i] ?? 0);
  return frameOf(framing, {
    transactionId,
    unit,
    fc,
    address,
    values: words,
    ...(fc === 16 ? { quantity: count } : {}),
  });
}

/** A request of a function without a register form: another function begins with its own fields, the address is kept. */
function otherRequest(before: ModbusMessage, next: ModbusMessage): ModbusMessage {
  if (before.fc === next.fc) return next;
  const { unit, fc, transactionId = 0, address = 0 } = next;
  return { transactionId, unit, fc, address, readAddress: address, writeAddress: address, ...askFor(fc)?.start };
}
