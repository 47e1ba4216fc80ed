/// <reference lib="webworker" />
import { toBase64 } from '../core/bytes/base64';
import { messageOf } from '../core/message-of';
import type { HandoverAnswer, HandoverQuestion } from '../messages/handover';
import { BujoDatabase } from '../store/database';
import { answerHandover } from './handover/answer';

declare const self: DedicatedWorkerGlobalScope;

const FONTS = {
  text: new URL(
    '@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2',
    import.meta.url,
  ),
  mono: new URL(
    '@fontsource-variable/atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-wght-normal.woff2',
    import.meta.url,
  ),
};

/** A font as a data address; empty where the local server is gone: the page then uses the reader's own fonts. */
async function dataAddress(url: URL): Promise<string> {
  try {
    const bytes = new Uint8Array(await (await fetch(url)).arrayBuffer());
    return `data:font/woff2;base64,${toBase64(bytes)}`;
  } catch {
    return '';
  }
}

self.addEventListener('message', ({ data }: MessageEvent<HandoverQuestion>) => {
  const database = new BujoDatabase();
  answerHandover(
    { database, fonts: async () => ({ text: await dataAddress(FONTS.text), mono: await dataAddress(FONTS.mono) }) },
    data,
  )
    .catch((error: unknown): HandoverAnswer => ({ kind: 'failed', why: messageOf(error) }))
    .then(
      (told) => {
        database.close();
        self.postMessage(told);
      },
      () => undefined,
    );
});
