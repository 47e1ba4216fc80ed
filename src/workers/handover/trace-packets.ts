import { ModbusTcpPackets, pcapngHead, serialPacket } from '../../core/capture/pcapng-write';
import type { Job } from '../../core/job/job';
import type { BujoDatabase } from '../../store/database';
import { eachEntry } from '../../store/each-entry';

/** The first port of the made-up connections; each line has its own. */
const FIRST_PORT = 49_152;

/** A job's trace as a packet capture: bytes of serial lines as they were, Modbus TCP in made-up connections, each with its time. */
export async function tracePackets(database: BujoDatabase, job: Job): Promise<Blob> {
  const connections = new Map(
    job.lines.flatMap(({ id, protocol }, i) =>
      protocol === 'modbus-tcp' ? [[id, new ModbusTcpPackets(FIRST_PORT + i)] as const] : [],
    ),
  );
  const names = new Map(job.lines.map(({ id, name }) => [id, name]));
  const parts: Uint8Array<ArrayBuffer>[] = [Uint8Array.from(pcapngHead('bujo'))];
  for await (const { session, entries } of eachEntry(database, job.id))
    for (const { line, atUs, bytes, direction, cause } of entries) {
      if (direction === 'event' || bytes.length === 0) continue;
      const timeUs = session.startedAtMs * 1000 + atUs;
      const comment = `${names.get(line) ?? line}, ${direction}, ${cause}`;
      const packet =
        connections.get(line)?.packet(timeUs, bytes, direction === 'sent' ? 'request' : 'response', comment) ??
        serialPacket(timeUs, bytes, comment);
      parts.push(Uint8Array.from(packet));
    }
  return new Blob(parts, { type: 'application/octet-stream' });
}
