// What a first visit loads of scripts, and how long it takes on a phone's processor and line until today can
// be read, and until what is pressed is answered.
import { launch } from './pipe.mjs';

const SLOWED = { processor: 4, bitsPerSecond: 1_600_000, latency: 150 };
const TIMES = 7;

const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];

/** Runs in the page: when each was painted first, in milliseconds since the way to it began. */
const watch = `(() => {
  const seen = {};
  const found = {
    readable: () => document.querySelector('[role=group][aria-label="Tonight"] button'),
    alive: () => seen.readable && !document.documentElement.hasAttribute('data-server-rendered'),
  };
  globalThis.painted = new Promise((done) => {
    const look = () => {
      for (const [name, is] of Object.entries(found)) if (!(name in seen) && document.documentElement && is()) {
        seen[name] = null;
        requestAnimationFrame(() => { seen[name] = performance.now(); });
      }
      if (seen.readable && seen.alive) done(seen); else requestAnimationFrame(look);
    };
    look();
  });
})()`;

/** @param address of the demo @param cookies that say who looks, as `name=value` */
export async function firstLoad(address, cookies) {
  const browser = await launch();
  const loads = [];
  let scripts = new Set();
  try {
    for (let i = 0; i < TIMES; i++) {
      const page = await browser.page();
      scripts = new Set();
      await page.send('Page.enable');
      await page.send('Network.enable');
      page.on(
        'Network.requestWillBeSent',
        ({ type, request }) => type === 'Script' && scripts.add(new URL(request.url).pathname),
      );
      await page.send('Network.setCookies', {
        cookies: cookies.map(([name, value]) => ({ name, value, url: address })),
      });
      await page.send('Network.setCacheDisabled', { cacheDisabled: true });
      await page.send('Emulation.setDeviceMetricsOverride', {
        width: 390,
        height: 844,
        deviceScaleFactor: 2,
        mobile: true,
      });
      await page.send('Page.addScriptToEvaluateOnNewDocument', { source: watch });
      const throughput = SLOWED.bitsPerSecond / 8;
      await page.send('Network.emulateNetworkConditions', {
        offline: false,
        latency: SLOWED.latency,
        downloadThroughput: throughput,
        uploadThroughput: throughput / 2,
      });
      await page.send('Emulation.setCPUThrottlingRate', { rate: SLOWED.processor });
      const loaded = page.next('Page.loadEventFired');
      await page.send('Page.navigate', { url: `${address}/today` });
      await loaded;
      const { result } = await page.send('Runtime.evaluate', {
        expression: 'painted',
        awaitPromise: true,
        returnByValue: true,
      });
      loads.push(result.value);
      await page.close();
    }
  } finally {
    await browser.close();
  }
  let bytes = 0;
  for (const path of scripts)
    bytes += Number((await fetch(`${address}${path}.gz`, { method: 'HEAD' })).headers.get('content-length'));
  const given = `processor slowed ${SLOWED.processor} times, ${SLOWED.bitsPerSecond / 1e6} Mbit/s, ${SLOWED.latency} ms`;
  return [
    { what: 'first load: scripts until today stands', measured: bytes / 1000, budget: 400, unit: 'KB gz' },
    {
      what: `first load: until today can be read, and a press is heard, ${given}`,
      measured: median(loads.map(({ readable }) => readable)) / 1000,
      budget: 2.5,
      unit: 's',
    },
    {
      what: `first load: until a press is answered, ${given}`,
      measured: median(loads.map(({ alive }) => alive)) / 1000,
      budget: 2.5,
      unit: 's',
    },
  ];
}
