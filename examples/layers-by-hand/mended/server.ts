/** A server's own check of a firing, written by hand, with each mistake of ../server.ts mended. */
type Body = { readonly [field: string]: unknown };
type Firing = {
  tag: string;
  kiln: string;
  potter: string;
  title: string;
  pieces: number;
  peak: number;
  glaze: string;
  vented: boolean;
  loadOn: string;
  collectOn: string | null;
  fee: number | null;
  shelf: { bay: string; level: number } | null;
  helpers: readonly string[];
  notes: string | null;
};

const FIELDS = 'tag kiln potter title pieces peak glaze vented loadOn collectOn fee shelf helpers notes'.split(' ');
const GLAZES = ['none', 'celadon', 'tenmoku', 'lustre'];

export const firings: Firing[] = [];
export const kilns = new Set<string>();
export const potters = new Set<string>();

function textOf(value: unknown): string | null {
  if (typeof value !== 'string') return null;
  const text = value.trim();
  return text === '' ? null : text;
}

function isDamaged(value: unknown): boolean {
  return typeof value !== 'string' || /[\u0000\ufffd\p{Surrogate}]/u.test(value);
}

function isDay(text: unknown): text is string {
  if (typeof text !== 'string' || !/^\d{4}-\d{2}-\d{2}$/.test(text) || text < '0001') return false;
  const date = new Date(`${text}T00:00:00Z`);
  return !Number.isNaN(date.getTime()) && date.toISOString().startsWith(text);
}

function isWhole(value: unknown): value is number {
  return typeof value === 'number' && Number.isSafeInteger(value);
}

/** Nothing of it given is no shelf at all. */
function shelfOf(value: unknown, errors: { [field: string]: string }): Firing['shelf'] {
  if (value === undefined || value === null) return null;
  if (typeof value !== 'object' || Array.isArray(value)) {
    errors.shelf = 'A shelf has a bay and a level.';
    return null;
  }
  const { bay: givenBay = null, level = null, ...others } = value as Body;
  for (const key of Object.keys(others)) errors[`/shelf${pointer(key)}`] = 'Unknown field.';
  const bay = textOf(givenBay);
  const isTyped = givenBay === null || !isDamaged(givenBay);
  if (isTyped && bay === null && level === null) return null;
  if (!isTyped || bay === null || !/^[A-F][0-9]?$/.test(bay)) errors['/shelf/bay'] = 'A bay looks like A or A1.';
  if (!isWhole(level) || level < 1 || level > 6) errors['/shelf/level'] = 'From 1 to 6.';
  return { bay: bay ?? '', level: Number(level) };
}

function helpersOf(value: unknown, errors: { [field: string]: string }): readonly string[] {
  if (value === undefined || value === null) return [];
  if (!Array.isArray(value)) {
    errors.helpers = 'A list of names.';
    return [];
  }
  if (value.length > 4) errors.helpers = 'At most 4 helpers.';
  const names = value.map(textOf);
  for (const [at, name] of names.entries()) {
    if (name === null || isDamaged(name) || [...name].length > 30 || /[\n\r]/.test(name) || names.indexOf(name) < at)
      errors[`/helpers/${at}`] = 'A name of at most 30 characters, once.';
  }
  return names.map(String);
}

export function saveFiring(body: Body): { saved: Firing } | { errors: { [field: string]: string } } {
  if (typeof body !== 'object' || body === null || Array.isArray(body)) return { errors: { '': 'Send a firing.' } };
  const errors: { [field: string]: string } = {};
  for (const key of Object.keys(body)) {
    if (!FIELDS.includes(key)) errors[pointer(key)] = 'Unknown field.';
  }

  const tag = textOf(body.tag);
  if (isDamaged(body.tag ?? '')) errors.tag = 'Give the tag.';
  else if (tag === null) errors.tag = 'Give the tag.';
  else if (!/^[A-Z]{2}-[0-9]{4}$/.test(tag)) errors.tag = 'A tag looks like AB-1234.';
  else if (firings.some((one) => one.tag === tag)) errors.tag = 'There is a firing with this tag.';

  const kiln = textOf(body.kiln);
  if (isDamaged(body.kiln ?? '') || kiln === null || !/^K[0-9]{2}$/.test(kiln)) errors.kiln = 'Choose a kiln.';
  else if (!kilns.has(kiln)) errors.kiln = 'There is no such kiln.';

  const potter = textOf(body.potter);
  if (isDamaged(body.potter ?? '') || potter === null) errors.potter = 'Say who books.';
  else if (potter.length > 20 || !/^[a-z][a-z0-9]*(?:-[a-z0-9]+)*$/.test(potter))
    errors.potter = 'This is no short name.';
  else if (!potters.has(potter)) errors.potter = 'There is no such potter.';

  const title = textOf(body.title);
  if (isDamaged(body.title ?? '') || title === null) errors.title = 'Say what is fired.';
  else if ([...title].length < 3 || [...title].length > 60 || /[\n\r]/.test(title))
    errors.title = '3 to 60 characters.';

  if (!isWhole(body.pieces) || body.pieces < 1 || body.pieces > 40) errors.pieces = 'From 1 to 40 pieces.';
  if (!isWhole(body.peak) || body.peak < 600 || body.peak > 1320) errors.peak = 'From 600 to 1320 °C.';

  const glaze = body.glaze;
  if (typeof glaze !== 'string' || !GLAZES.includes(glaze)) errors.glaze = 'Choose a glaze.';
  if (typeof body.vented !== 'boolean') errors.vented = 'Say whether the vent is open.';
  if (!isDay(body.loadOn)) errors.loadOn = 'Give the loading day.';

  const collectOn = body.collectOn ?? null;
  if (collectOn !== null && !isDay(collectOn)) errors.collectOn = 'This is no day.';
  else if (collectOn !== null && isDay(body.loadOn) && collectOn <= body.loadOn)
    errors.collectOn = 'After the loading day.';
  const notes = textOf(body.notes)?.replace(/\r\n?/g, '\n') ?? null;
  if (body.notes != null && isDamaged(body.notes)) errors.notes = 'Text only.';
  else if (notes !== null && [...notes].length > 500) errors.notes = 'At most 500 characters.';

  const fee = body.fee ?? null;
  if (fee !== null && (typeof fee !== 'number' || !(fee >= 0 && fee <= 500) || Math.round(fee * 100) / 100 !== fee))
    errors.fee = 'From 0 to 500, with two digits at most.';
  const shelf = shelfOf(body.shelf, errors);
  const helpers = helpersOf(body.helpers, errors);
  if (isWhole(body.pieces) && body.pieces > 30 && helpers.length === 0) errors.helpers ??= 'Many pieces need a helper.';

  if (glaze === 'lustre' && body.vented === false) errors.vented ??= 'Lustre needs the vent open.';
  if (glaze === 'celadon' && isWhole(body.peak) && body.peak < 1200) errors.peak = 'Celadon needs 1200 °C or more.';
  if (firings.some((one) => one.kiln === kiln && one.loadOn === body.loadOn)) errors.kiln ??= 'Taken on that day.';

  if (Object.keys(errors).length > 0) return { errors };

  const row = { ...body, tag, kiln, potter, title, collectOn, fee, shelf, helpers, notes } as Firing;
  firings.push(row);
  return { saved: row };
}

function pointer(key: string): string {
  return `/${key.replaceAll('~', '~0').replaceAll('/', '~1')}`;
}
