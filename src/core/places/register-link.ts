import type { ModbusFraming } from '../modbus/framing';
import { learnedRegisters, registersWritten } from '../modbus/touched';
import { planReads } from '../registers/plan-reads';
import type { SheetIndex } from '../sheet/index-sheet';
import { isRegister } from '../sheet/places';
import type { PlaceLink } from './place-link';

/** Places that are Modbus registers. */
export function registerLink(index: SheetIndex, framing: ModbusFraming): PlaceLink {
  const encode = (message: Parameters<ModbusFraming['encode']>[0]): readonly Uint8Array[] => {
    const built = framing.encode(message, 'request');
    return built.ok ? [built.value] : [];
  };
  return {
    write: (unit, { address }, word) => encode({ unit, fc: 6, address, values: [word] })[0] ?? null,
    writeRow: (unit, { address }, values) =>
      encode({ unit, fc: 16, address, quantity: values.length, values: [...values] })[0] ?? null,
    read: (unit, places) => {
      const wanted = places.map(({ address }) => address).filter(isRegister);
      return planReads(wanted, (address) => index.byAddress.has(address)).flatMap(({ address, quantity }) =>
        encode({ unit, fc: 3, address, quantity }),
      );
    },
    writes: (request) => {
      const { message } = framing.read(request, 'request');
      return message !== null && registersWritten(message) !== null;
    },
    written: (request) => {
      const { message } = framing.read(request, 'request');
      const writes = message && registersWritten(message);
      return writes ? writes.words.map((word, i) => [writes.first + i, word] as const) : [];
    },
    learned: (request, reply) => {
      const [asked, said] = [framing.read(request, 'request').message, framing.read(reply, 'response').message];
      return asked && said ? learnedRegisters(asked, said) : [];
    },
  };
}
