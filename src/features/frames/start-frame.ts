import { ussParameterOf } from '../../core/places/uss-link';
import { firstRead } from '../../core/dialect/write';
import type { ModbusFraming } from '../../core/modbus/framing';
import type { LineProtocol } from '../../core/protocol/line-protocol';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { encodeUss } from '../../core/uss/encode';
import { readTask } from '../../core/uss/parameter';
import { firstRequest } from './draft-frame';

const NOTHING = new Uint8Array(0);

/** What a station is asked first: something harmless, by its sheet. */
export function startFrame(
  family: LineProtocol['family'],
  framing: ModbusFraming,
  station: number,
  index: SheetIndex | null,
): Uint8Array {
  switch (family) {
    case 'modbus':
      return firstRequest(framing, station, index);
    case 'uss': {
      const rule = index?.sheet.uss;
      const [first] = (index?.parameters ?? []).flatMap((parameter) => ussParameterOf(parameter) ?? []);
      const task = rule && first ? readTask(rule, station, first) : null;
      const built = encodeUss(task?.ok ? task.value.draft : { address: station, mirror: true, pzd: [0, 0] });
      return built.ok ? built.value : NOTHING;
    }
    case 'ascii': {
      const dialect = index?.sheet.dialect;
      return (dialect && firstRead(dialect, station)) ?? NOTHING;
    }
  }
}
