/** Runs once when the server starts: with demo data, the network stand-ins start with it. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs' || process.env.BUJO_YARD !== '1') return;
  const { startYard } = await import('./yard/network-yard');
  await startYard();
}
