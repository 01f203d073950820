import { integer, ruleset, text } from 'echo-rule';

export const kiln = ruleset('kiln', {
  table: 'kilns',
  key: 'code',
  called: 'name',
  fields: {
    code: text({ pattern: /K[0-9]{2}/, label: 'Kiln code' }),
    name: text({ minLength: 2, maxLength: 40 }),
    hottest: integer({ min: 900, max: 1400, label: 'Hottest firing (°C)' }),
  },
});
