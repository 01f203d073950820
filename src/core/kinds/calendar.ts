/** The proleptic Gregorian calendar by arithmetic (ISO 8601); `Date.parse` rolls impossible days over. */

const SPELLING = /^([0-9]{4})-([0-9]{2})-([0-9]{2})$/;

/** Days in a month of a year. */
export function daysInMonth(year: number, month: number): number {
  if (month === 2) return year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0) ? 29 : 28;
  return month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31;
}

/** True for a real day of the years 0001 to 9999, spelled `YYYY-MM-DD`. */
export function isRealDate(text: string): boolean {
  const parts = SPELLING.exec(text);
  if (parts === null) return false;
  const [year, month, day] = [Number(parts[1]), Number(parts[2]), Number(parts[3])];
  return year >= 1 && month >= 1 && month <= 12 && day >= 1 && day <= daysInMonth(year, month);
}

/** The day so many days later (or earlier); null beyond the years 0001 to 9999. */
export function addDays(date: string, days: number): string | null {
  const instant = new Date(`${date}T00:00:00Z`);
  instant.setUTCDate(instant.getUTCDate() + days);
  if (Number.isNaN(instant.getTime())) return null;
  const text = instant.toISOString().slice(0, 10);
  return isRealDate(text) ? text : null;
}
