import {
  boolean,
  choice,
  date,
  decimal,
  integer,
  list,
  record,
  reference,
  rule,
  ruleset,
  text,
  unique,
} from 'echo-rule';
import { kiln } from './kiln.rules.ts';
import { potter } from './potter.rules.ts';

export const firing = ruleset('firing', {
  table: 'firings',
  key: 'tag',
  called: 'tag',
  fields: {
    tag: text({ pattern: /[A-Z]{2}-[0-9]{4}/, label: 'Firing tag' }),
    kiln: reference(kiln),
    potter: reference(potter, { label: 'Booked by' }),
    title: text({ minLength: 3, maxLength: 60, label: 'What is fired' }),
    pieces: integer({ min: 1, max: 40, label: 'Number of pieces' }),
    peak: integer({ min: 600, max: 1320, label: 'Peak temperature (°C)' }),
    glaze: choice({ none: 'No glaze', celadon: 'Celadon', tenmoku: 'Tenmoku', lustre: 'Lustre' }),
    vented: boolean({ label: 'Vent open' }),
    fee: decimal({ precision: 5, scale: 2, min: 0, max: 500, optional: true, label: 'Fee paid' }),
    loadOn: date({ label: 'Loading day' }),
    collectOn: date({ optional: true, label: 'Collection day' }),
    shelf: record(
      { bay: text({ pattern: /[A-F][0-9]?/ }), level: integer({ min: 1, max: 6 }) },
      { optional: true, label: 'Own shelf' },
    ),
    helpers: list(text({ maxLength: 30, label: 'Helper' }), { maxItems: 4, distinct: true }),
    notes: text({ lines: 'many', maxLength: 500, optional: true }),
  },
  rules: (it) => ({
    collectAfterLoading: it.collectOn.isAfter(it.loadOn),
    lustreNeedsVenting: rule({
      holds: it.glaze.is('lustre').implies(it.vented.is(true)),
      blame: it.vented,
      message: 'Lustre firings need the vent open.',
    }),
    celadonFiredHot: rule({
      holds: it.glaze.is('celadon').implies(it.peak.isAtLeast(1200)),
      blame: it.peak,
      message: 'Celadon needs a peak of 1200 °C or more.',
    }),
    manyPiecesNeedHelp: rule({
      holds: it.pieces.isAtMost(30).or(it.helpers.count().isAtLeast(1)),
      blame: it.helpers,
      message: 'More than 30 pieces need a helper.',
    }),
    oneFiringPerDay: unique(it.kiln, it.loadOn),
  }),
  indexes: (it) => ({ byPotter: [it.potter, it.loadOn] }),
});
