import 'echo-rule/form.css';
import { bind, type Rules, recordSoFar, violationsIn } from 'echo-rule/browser';
import './studio.css';

type Compiled = Rules<object>;
const rules: { readonly [ruleset: string]: () => Promise<Compiled> } = {
  firing: () => import('../echo/javascript/firing.js'),
  kiln: () => import('../echo/javascript/kiln.js'),
  potter: () => import('../echo/javascript/potter.js'),
};

for (const form of document.querySelectorAll<HTMLFormElement>('form[data-ruleset]')) {
  const load = rules[form.dataset.ruleset ?? ''];
  if (load !== undefined) bindForm(form, await load());
}

/** Sends the record as JSON and goes on to the list; what the server refuses stands in the form like everything else. */
function bindForm(form: HTMLFormElement, compiled: Compiled): void {
  const live = document.querySelector<HTMLElement>('.live');
  if (live !== null) live.hidden = false;
  bind(form, compiled, {
    live(checked) {
      const [state, record] = [live?.querySelector('.state'), live?.querySelector('pre')];
      if (state == null || record == null) return;
      const count = checked.ok ? 0 : checked.violations.length;
      state.textContent =
        count === 0 ? 'Everything holds.' : `${count} ${count === 1 ? 'rule is' : 'rules are'} not met yet.`;
      record.textContent = JSON.stringify(recordSoFar(form, compiled), null, 2);
    },
    async send(value) {
      const response = await fetch(form.action, {
        method: 'POST',
        headers: { 'content-type': 'application/json', accept: 'application/json, application/problem+json' },
        body: JSON.stringify(value),
      });
      const violations = await violationsIn(response);
      if (violations === undefined) {
        const path = response.headers.get('location') ?? '/';
        const at = path.lastIndexOf('/');
        location.assign(`${path.slice(0, at)}?saved=${path.slice(at + 1)}`);
      }
      return violations;
    },
  });
}
