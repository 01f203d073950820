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

/** What a driver says of an address that leads nowhere, without the password that it may hold. */
export function withoutPassword(error: unknown, address: string): string {
  const message = saidBy(error);
  const secrets = passwordsIn(address).filter((part) => part !== '');
  return secrets.reduce((text, part) => text.replaceAll(part, '…'), message);
}

/** What an error says; where a name has several addresses, what is said of each. */
function saidBy(error: unknown): string {
  if (error instanceof AggregateError && error.message === '') return error.errors.map(saidBy).join('; ');
  return error instanceof Error ? error.message || error.name : String(error);
}

/** The password of an address, as it is written and as it is meant; of what is no URL, all of it. */
function passwordsIn(address: string): readonly string[] {
  try {
    const { password } = new URL(address);
    return [password, decodeURIComponent(password)];
  } catch {
    return [address];
  }
}
