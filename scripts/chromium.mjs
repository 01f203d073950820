// A headless Chromium for pictures: CHROMIUM=/path/to/it, or where systems have it. Needs a build.
import { openBrowser } from '../dist/layers/page/browser.js';

export async function withBrowser(work) {
  const { browser, close } = await openBrowser(undefined);
  try {
    await work(browser);
  } finally {
    await close();
  }
}
