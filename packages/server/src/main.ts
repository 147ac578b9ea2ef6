import { once } from 'node:events';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import { fileURLToPath } from 'node:url';
import { buildApp } from './app.js';
import { isOnlyHere, readConfig } from './config.js';
import { demoSignIn } from './demo/seed.js';

/** Starts the server and says where it is; ends it on SIGTERM and SIGINT. A spare, which has read all of this, first waits for its turn. */
async function main(): Promise<void> {
  if (process.env.VIATICUM_SPARE === '1') {
    process.once('disconnect', () => process.exit(0));
    await once(process, 'message');
    process.removeAllListeners('disconnect');
  }
  const config = readConfig(process.env, fileURLToPath(new URL('../../web/dist', import.meta.url)));
  const { app, hasKnownPassword, logPlace } = await buildApp(config);
  if (!isOnlyHere(config) && (await hasKnownPassword())) {
    await app.close();
    throw new Error(
      `Everybody knows the password of “${demoSignIn.name}”, and this server would be open to others. Give it one of your own:\n  VIATICUM_DEMO_PASSWORD='…' npm start`,
    );
  }
  if (process.env.VIATICUM_BLOCKS === '1') tellBlocks();
  let stopping = false;
  const stop = async () => {
    if (stopping) return;
    stopping = true;
    setTimeout(() => process.exit(0), 4000).unref();
    await app.close();
    process.exit(0);
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  process.on('disconnect', stop); // whoever started this is gone
  try {
    await app.listen({ host: config.host, port: config.port });
  } catch (error) {
    if ((error as { code?: string }).code === 'EADDRINUSE') {
      throw new Error(
        `Port ${config.port} is taken by another program. Stop it, or start with VIATICUM_PORT=${config.port + 1}.`,
      );
    }
    if ((error as { code?: string }).code === 'EADDRNOTAVAIL') {
      throw new Error(`This machine has no address ${config.host}. Give one of its own in VIATICUM_HOST.`);
    }
    throw error;
  }
  const how =
    isOnlyHere(config) && !config.demoPassword ? `  (sign in as “${demoSignIn.name}” with “${demoSignIn.password}”)` : '';
  console.log(`Viaticum is at ${config.publicUrl}${how}\nIts log is in ${logPlace}`);
}

/** Tells whoever started this, again and again, how long the event loop was blocked at the most. */
function tellBlocks(): void {
  const delay = monitorEventLoopDelay({ resolution: 5 });
  delay.enable();
  setInterval(() => {
    process.send?.({ blockedMs: delay.max / 1e6 });
    delay.reset();
  }, 200).unref();
}

main().catch((error: Error) => {
  console.error(error.message);
  process.exit(1);
});
