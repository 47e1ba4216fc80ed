import type { STAGES } from './stages';

export type StagePath = (typeof STAGES)[number]['path'];

/**
 * Shows another stage of this page. It asks no server for anything: lines, keep-alives and Stop live in this page, and must not be lost because
 * the server is gone.
 */
export function goTo(path: StagePath): void {
  if (window.location.pathname !== path) window.history.pushState(null, '', path);
}
