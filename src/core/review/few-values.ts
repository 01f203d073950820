import { fieldAt, type Path } from '../model/index.js';
import type { Finding } from './finding.js';
import { findingOf, judgedAlone, listed, nameOf, type Subject } from './subject.js';

/** A unique rule over fewer values than this is told: no more records can be stored. */
const FEW = 50;
/** Over so few it is hardly meant. */
const HARDLY_ANY = 2;

/** Unique rules over so few values that they limit how many records there can be. */
export function fewValues(subject: Subject): readonly Finding[] {
  const { model } = subject;
  return model.constraints.flatMap((rule) => {
    const { predicate } = rule;
    if (predicate.op !== 'unique' || predicate.among !== null) return [];
    // Absent values never collide: where one may be absent there is no limit.
    if (predicate.of.some((path) => fieldAt(model, path).optional || path.includes('.'))) return [];
    const count = predicate.of.reduce((product, path) => product * countOf(path, subject), 1);
    if (count === 0 || count >= FEW) return [];
    const values = count === 1 ? 'one value' : `${count} values`;
    return [
      findingOf(subject, {
        code: 'few_values',
        severity: count <= HARDLY_ANY ? 'warning' : 'note',
        about: rule,
        rules: [rule],
        message: `${nameOf(rule)} lets no more than ${count === 1 ? 'one record' : `${count} records`} of ${model.ruleset} be stored.`,
        proof: `${listed(predicate.of)} can have ${values}${predicate.of.length > 1 ? ' together' : ''}, and each may be taken once.`,
        mend: `Leave the rule out, make it unique together with another field, or keep it if ${values} are meant.`,
      }),
    ];
  });
}

function countOf(path: Path, subject: Subject): number {
  const own = judgedAlone(subject).filter(({ owner, facet }) => facet && owner === path);
  return subject.reasoner.countValues(path, own, FEW);
}
