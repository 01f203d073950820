import { canonicalInstant } from '../kinds/index.js';
import { ProblemError, problems } from '../messages/index.js';

/** The clock that rules about today are judged by: that of the machine unless it is fixed. */
export interface GivenClock {
  /** ISO 8601, with `Z` or an offset. */
  readonly instant: string;
  /** IANA; the ruleset's unless told. */
  readonly zone?: string;
}

/** The day in the zone, `YYYY-MM-DD`, and the moment in UTC. */
export interface Reading {
  readonly today: string;
  readonly now: string;
}

/** @throws ProblemError `clock_invalid` for what is no instant */
export function readClock(given: GivenClock | undefined, zone: string): Reading {
  const now = given === undefined ? new Date().toISOString() : canonicalInstant(given.instant, 6, false);
  if (now === null) throw new ProblemError([problems.clockInvalid(null, JSON.stringify(given))]);
  return new LazyReading(now, given?.zone ?? zone);
}

/** Most records have no rule about today, and what a day is in a zone takes a while to find out. */
class LazyReading implements Reading {
  readonly now: string;
  readonly #zone: string;
  #today: string | null = null;

  constructor(now: string, zone: string) {
    this.now = now;
    this.#zone = zone;
  }
  get today(): string {
    this.#today ??= dayIn(this.now, this.#zone);
    return this.#today;
  }
}

function dayIn(now: string, zone: string): string {
  if (zone === 'UTC') return now.slice(0, 10);
  const format = new Intl.DateTimeFormat('en-US', {
    timeZone: zone,
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
  });
  const parts = new Map(format.formatToParts(new Date(now)).map(({ type, value }) => [type, value]));
  return `${(parts.get('year') ?? '').padStart(4, '0')}-${parts.get('month')}-${parts.get('day')}`;
}
