import { spawn, type ChildProcess } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));

/** The copies of the demo that slots keep; a run begins without any. */
export const PREPARED = join(root, 'test-results/prepared');

/** The ports of a server, its campus and its postbox */
type Ports = readonly [number, number, number];

async function freePort(): Promise<number> {
  const probe = createServer();
  await new Promise<void>((done) => probe.listen(0, '127.0.0.1', done));
  const { port } = probe.address() as AddressInfo;
  await new Promise((done) => probe.close(done));
  return port;
}

/**
 * A built server as a process of its own, over a data folder of its own, that can be stopped hard and started
 * again.
 */
export class ServerProcess {
  private child: ChildProcess | null = null;
  private constructor(
    private readonly script: string,
    readonly data: string,
    readonly address: string,
    readonly campus: string,
    readonly postbox: string,
    private readonly env: Record<string, string>,
  ) {}

  /** What the first account needs, as the server prints it */
  setUpWord = '';

  /**
   * Starts a demo from the copy its slot keeps, which the first demo of the slot makes: filling one takes five times
   * as long. A slot keeps its ports as well, since the campus's address stands in what was gathered from it.
   * @param slot  whose only one it is at a time
   */
  static async demo(slot: number): Promise<ServerProcess> {
    const kept = join(PREPARED, String(slot));
    const portsFile = join(kept, 'ports.json');
    if (!existsSync(portsFile)) {
      const ports: Ports = [await freePort(), await freePort(), await freePort()];
      const first = await ServerProcess.start('demo.js', {}, ports);
      await first.end();
      mkdirSync(kept, { recursive: true });
      cpSync(first.data, join(kept, 'data'), { recursive: true });
      writeFileSync(portsFile, JSON.stringify(ports));
      await first.stop();
    }
    const ports = JSON.parse(readFileSync(portsFile, 'utf8')) as Ports;
    return ServerProcess.start('demo.js', {}, ports, join(kept, 'data'));
  }

  /**
   * @param ports  of the server, the campus and the postbox
   * @param from  a folder whose copy it begins with
   */
  static async start(
    script: 'demo.js' | 'main.js',
    more: Record<string, string> = {},
    ports?: Ports,
    from?: string,
  ): Promise<ServerProcess> {
    const [port, campusPort, postPort] = ports ?? [await freePort(), await freePort(), await freePort()];
    const data = mkdtempSync(join(tmpdir(), 'zephyrfield-e2e-'));
    if (from) cpSync(from, data, { recursive: true });
    const env = {
      ZEPHYRFIELD_PORT: String(port),
      ZEPHYRFIELD_CAMPUS_PORT: String(campusPort),
      ZEPHYRFIELD_POST_PORT: String(postPort),
      ZEPHYRFIELD_DATA: data,
      ZEPHYRFIELD_WEB: join(root, 'app/dist'),
      ...more,
    };
    const server = new ServerProcess(
      join(root, 'server/dist', script),
      data,
      `http://localhost:${port}`,
      `http://localhost:${campusPort}`,
      `http://localhost:${postPort}`,
      env,
    );
    await server.up();
    return server;
  }

  /** Starts it and waits until it says that it is ready. */
  async up(): Promise<void> {
    const child = spawn(process.execPath, [this.script], {
      env: { ...process.env, ...this.env },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    this.child = child;
    await new Promise<void>((ready, fail) => {
      let said = '';
      child.stdout!.on('data', (chunk: Buffer) => {
        said += chunk.toString();
        this.setUpWord = /set-up word[^:]*: (\S+)/.exec(said)?.[1] ?? '';
        if (/ready/.test(said)) ready();
      });
      child.once('exit', (code) => fail(new Error(`the server ended with ${code}: ${said}`)));
    });
  }

  /** Ends it as a power cut would. */
  kill(): Promise<void> {
    return this.end('SIGKILL');
  }

  /** Ends it, in order where nothing else is said. */
  private async end(signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
    const child = this.child;
    if (!child) return;
    this.child = null;
    const ended = new Promise((done) => child.once('exit', done));
    child.kill(signal);
    await ended;
  }

  async stop(): Promise<void> {
    await this.kill();
    rmSync(this.data, { recursive: true, force: true });
  }
}
