import type { Refusal } from './guard';

/** The port that this server listens on; Next.js puts it into the environment as it starts. */
export const ownPort = (): number => Number(process.env.PORT ?? 3000);

/** A refusal as plain text with its status. */
export const plain = ({ status, text }: Refusal): Response =>
  new Response(text, { status, headers: { 'content-type': 'text/plain; charset=utf-8' } });
