import { boolean, date, email, ruleset, text, unique } from 'echo-rule';

export const potter = ruleset('potter', {
  table: 'potters',
  key: 'handle',
  called: 'name',
  fields: {
    handle: text({ pattern: /[a-z][a-z0-9]*(?:-[a-z0-9]+)*/, maxLength: 20, label: 'Short name' }),
    name: text({ minLength: 2, maxLength: 60 }),
    phone: text({ pattern: /\+[0-9]{1,3}(?: [0-9]{2,5}){2,4}/, optional: true }),
    email: email({ case: 'lower', optional: true }),
    memberSince: date({ min: '2015-01-01' }),
    inducted: boolean({ label: 'Has had the kiln induction' }),
  },
  rules: (it) => ({
    phoneTakenOnce: unique(it.phone),
    emailTakenOnce: unique(it.email),
  }),
});
