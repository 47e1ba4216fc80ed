import * as v from 'valibot';
import { ownPort, plain } from '../../../bridge/answer';
import { refuseForeign } from '../../../bridge/guard';
import { readBounded } from '../../../bridge/read-bounded';
import { HANDS, runningYard, YARD_PORTS, type YardName } from '../../../yard/network-yard';
import { BEHAVIOURS } from '../../../yard/tcp-device';

export const runtime = 'nodejs';
export const dynamic = 'force-dynamic';

const Name = v.picklist(Object.keys(YARD_PORTS) as [YardName, ...YardName[]]);
const Order = v.union([
  v.strictObject({ name: Name, behaviour: v.picklist(BEHAVIOURS) }),
  v.strictObject({ name: Name, hand: v.picklist(HANDS) }),
]);
const BODY_MAX = 200;

const guard = (request: Request) =>
  refuseForeign({ method: request.method, header: (name) => request.headers.get(name) }, ownPort());

/** The network stand-ins of this server, so that the page can say which targets are no real drives. */
export function GET(request: Request): Response {
  const foreign = guard(request);
  return foreign ? plain(foreign) : Response.json(runningYard()?.states() ?? []);
}

/** Makes a stand-in fail, or work again, or does what a person at it would do. */
export async function POST(request: Request): Promise<Response> {
  const foreign = guard(request);
  if (foreign) return plain(foreign);
  const yard = runningYard();
  if (!yard) return plain({ status: 404, text: 'this server runs no stand-ins' });
  const order = v.safeParse(Order, parse((await readBounded(request, BODY_MAX)) ?? ''));
  if (!order.success) return plain({ status: 400, text: 'this is no order for a stand-in' });
  const { output } = order;
  if ('behaviour' in output) await yard.behave(output.name, output.behaviour);
  else if (!yard.touch(output.name, output.hand))
    return plain({ status: 400, text: 'nobody can do that at this stand-in' });
  return Response.json(yard.states());
}

function parse(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
