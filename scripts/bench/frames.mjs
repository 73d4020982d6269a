import { chromium } from '@playwright/test';

const FLAGS = ['--headless', '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking'];
const MORE_FLAGS = ['--disable-component-update', '--disable-sync'];
/** Ten seconds: among fewer, one frame late by chance made the slowest in twenty 0.5 × or 5 × of the same page. */
const FRAMES = 600;

/** A browser of the size pictures are taken at, signed in. */
export async function openBrowser({ address, sessionCookie }) {
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', chromiumSandbox: false, args: [...FLAGS, ...MORE_FLAGS] });
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const [name, value] = sessionCookie.split('=');
  await context.addCookies([{ name, value, url: address }]);
  return { browser, context };
}

/** How long frames last (middle, and the slowest in twenty) while something is scrolled to and fro, or the pointer drags from a place. */
export async function framesWhile(page, { scroll, drag }) {
  const frames = page.evaluate(
    ({ count, scrolled }) =>
      new Promise((resolve) => {
        const times = [];
        let last = null;
        const inner = scrolled === null || scrolled === 'page' ? null : globalThis.document.querySelector(scrolled);
        const step = (now) => {
          if (last !== null) times.push(now - last);
          last = now;
          const by = times.length < count / 2 ? 60 : -60;
          if (inner !== null) inner.scrollBy(by, 0);
          else if (scrolled === 'page') globalThis.scrollBy(0, by);
          if (times.length < count) globalThis.requestAnimationFrame(step);
          else resolve(times.sort((left, right) => left - right));
        };
        globalThis.requestAnimationFrame(step);
      }),
    { count: FRAMES, scrolled: scroll ?? null },
  );
  if (drag !== undefined) {
    await page.mouse.move(drag.x, drag.y);
    await page.mouse.down();
    let isOver = false;
    void frames.then(() => (isOver = true));
    for (let move = 0; !isOver; move++) await page.mouse.move(drag.x + 60 * Math.sin(move / 8), drag.y);
  }
  const times = await frames;
  if (drag !== undefined) {
    await page.keyboard.press('Escape');
    await page.mouse.up();
  }
  return { middle: times[times.length >> 1], slow: times[Math.floor(times.length * 0.95)] };
}

/** One kind of frames against another, as it is told. */
export const ratioOf = (frames, base, which) => `${(frames[which] / base[which]).toFixed(1)} ×`;
