/** Called once when the web server starts: the first file shouldn't wait for threads to start. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return;
  const { warmPictureProcesses } = await import('./server/codecs/pictures');
  warmPictureProcesses();
}
