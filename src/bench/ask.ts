import type { ExchangeResult } from '../link/request';
import type { Bench } from './bench';

/** Sends one request to a station of the current line and waits for its end. */
export function ask(bench: Bench, station: number, bytes: Uint8Array, cause: string): Promise<ExchangeResult> {
  const ticket = bench.send(station, bytes, cause);
  return new Promise((resolve) => {
    const end = bench.state.subscribe(({ results }) => {
      const result = results.get(ticket);
      if (!result) return;
      end();
      resolve(result);
    });
  });
}
