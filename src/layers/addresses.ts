import { ProblemError, problems } from '../core/messages/index.js';

/**
 * An address with the variables of the environment that it names put in.
 *
 * @throws ProblemError for a variable that is not set
 */
export function addressOf(url: string): string {
  return url.replace(/\$\{([A-Za-z_][A-Za-z0-9_]*)\}/g, (_, name: string) => {
    const value = process.env[name];
    if (value === undefined || value === '') throw new ProblemError([problems.variableMissing(null, name)]);
    return value;
  });
}

/** What a driver says of an address that leads nowhere, without the address: it may hold a password. */
export function withoutAddress(error: unknown, address: string): string {
  const message = error instanceof Error ? error.message || error.name : String(error);
  const parts = [address];
  try {
    const { password, username, host, hostname } = new URL(address);
    parts.push(host, hostname, decodeURIComponent(password), decodeURIComponent(username));
  } catch {
    // What is no URL is told by the driver, and left out as a whole.
  }
  const secret = parts.filter((part) => part !== '');
  return secret.reduce((text, part) => text.replaceAll(part, '…'), message);
}
