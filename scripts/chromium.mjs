// A headless Chromium for pictures: CHROMIUM=/path/to/it, or Debian's.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from 'playwright-core';

export async function withBrowser(work) {
  const profile = mkdtempSync(join(tmpdir(), 'echo-rule-chromium-'));
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: [
      '--headless',
      // Chromium refuses to start as root with a sandbox; as anyone else it has one.
      ...(process.getuid?.() === 0 ? ['--no-sandbox'] : []),
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      `--crash-dumps-dir=${profile}`,
    ],
  });
  try {
    await work(browser);
  } finally {
    await browser.close();
    rmSync(profile, { recursive: true, force: true });
  }
}
