import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser } from 'playwright-core';
import { ProblemError, problems } from '../../core/messages/index.js';

/** Where systems have it. */
const usual = [
  '/usr/bin/chromium',
  '/usr/bin/chromium-browser',
  '/usr/bin/google-chrome',
  '/Applications/Google Chrome.app/Contents/MacOS/Google Chrome',
  'C:\\Program Files\\Google\\Chrome\\Application\\chrome.exe',
];

/** Starts Chromium with a profile of its own, which goes when it is closed. */
export async function openBrowser(
  path: string | undefined,
): Promise<{ readonly browser: Browser; close(): Promise<void> }> {
  const { chromium } = await import('playwright-core').catch(() => {
    throw unreachable('the package playwright-core is not there; install it beside echo-rule');
  });
  const named = path ?? process.env.CHROMIUM;
  const executablePath = named ?? usual.find((one) => existsSync(one));
  if (executablePath === undefined || !existsSync(executablePath)) {
    const where = named === undefined ? `none of ${usual.join(', ')}` : `nothing is at ${named}`;
    throw unreachable(
      `Chromium: ${where}; install it, or name its path in the option browser or the variable CHROMIUM`,
    );
  }
  const profile = mkdtempSync(join(tmpdir(), 'echo-rule-chromium-'));
  const remove = () => rmSync(profile, { recursive: true, force: true });
  // Chromium refuses to start as root with a sandbox; as anyone else it has one.
  const isRoot = process.getuid?.() === 0;
  try {
    const browser = await chromium.launch({
      executablePath,
      // Who started the browser closes it, and what it made beside it.
      handleSIGINT: false,
      handleSIGTERM: false,
      args: [
        '--headless',
        ...(isRoot ? ['--no-sandbox'] : []),
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--lang=en-US',
        // Tabs in the background are typed into as well.
        '--disable-renderer-backgrounding',
        '--disable-background-timer-throttling',
        '--disable-backgrounding-occluded-windows',
        `--crash-dumps-dir=${profile}`,
      ],
    });
    return {
      browser,
      async close() {
        await browser.close();
        remove();
      },
    };
  } catch (error) {
    remove();
    throw unreachable(`Chromium at ${executablePath} does not start: ${firstLine(error)}`);
  }
}

function unreachable(why: string): ProblemError {
  return new ProblemError([problems.layerUnreachable(null, 'page', why)]);
}

export function firstLine(error: unknown): string {
  return (error instanceof Error ? error.message : String(error)).split('\n')[0] ?? '';
}
