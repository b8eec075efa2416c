import { fileURLToPath } from 'node:url';
import { answerVersion } from './commands/answer-version.ts';
import { systemClock } from './clock.ts';
import { readConfig } from './config.ts';
import { startServer } from './server.ts';
import { makeLog } from './log.ts';

answerVersion();
const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

try {
  const config = readConfig(process.env);
  const { address, services, close } = await startServer({
    config,
    clock: systemClock,
    migrations: here('../migrations'),
    workerScript: here('./worker.js'),
    log: makeLog(config.LOG),
  });
  if (services.setUpWord)
    console.log(`The set-up word, which the first account needs: ${services.setUpWord}`);
  console.log(`Zephyrfield is ready at ${address}`);
  for (const signal of ['SIGINT', 'SIGTERM'] as const)
    process.once(signal, () => void close().then(() => process.exit(0)));
} catch (error) {
  console.error(`Zephyrfield cannot start: ${error instanceof Error ? error.message : String(error)}`);
  process.exit(1);
}
