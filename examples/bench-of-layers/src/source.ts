/** What the bench begins with. It is plain JavaScript: change it, and every layer follows. */
export const firstSource = `import {
  choice, date, decimal, email, integer, ruleset, text,
} from 'echo-rule';

export const piece = ruleset('piece', {
  key: 'mark',
  fields: {
    mark: text({ pattern: /[A-Z]{2}-[0-9]{3}/ }),
    title: text({ minLength: 2, maxLength: 20 }),
    potter: email({ case: 'lower', optional: true }),
    pieces: integer({ min: 1, max: 40 }),
    weight: decimal({ precision: 5, scale: 2, min: 0 }),
    glaze: choice({ ash: 'Ash', celadon: 'Celadon' }),
    thrownOn: date({ label: 'Thrown on' }),
    glazedOn: date({ label: 'Glazed on', optional: true }),
  },
  rules: (it) => ({
    glazedLater: it.glazedOn.isAfter(it.thrownOn),
  }),
});
`;
