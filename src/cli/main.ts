import { createRequire } from 'node:module';
import { Command, CommanderError, InvalidArgumentError, Option } from 'commander';
import { scratchServers } from '../agreement/strength/index.js';
import { problemsOf } from '../core/messages/index.js';
import { type Wire, wires } from '../core/model/index.js';
import { tableTargets } from '../core/targets/index.js';
import { problemsText } from '../report/index.js';
import { cases } from './cases.js';
import { compile } from './compile.js';
import { explain } from './explain.js';
import { fill } from './fill.js';
import { probe } from './probe.js';
import { defaultConfig, loadProject } from './project.js';
import { review } from './review.js';
import { strength } from './strength.js';
import { shortener, type Terminal } from './terminal.js';
import { tryRecord } from './try.js';

/** Exit codes: 0 all agree, 1 findings, 2 the command or the configuration is wrong, 3 a layer out of reach, 4 our fault. */
const WRONG = 2;
const OUT_OF_REACH = 3;
const OUR_FAULT = 4;
const FINDINGS = 1;

const codeOf: { readonly [problem: string]: number } = {
  layer_unreachable: OUT_OF_REACH,
  scratch_unreachable: OUT_OF_REACH,
  driver_missing: OUT_OF_REACH,
  file_edited: FINDINGS,
};

interface Common {
  readonly config: string;
}

/** Runs one command line and gives its exit code. Nothing is thrown: every error is told on the terminal. */
export async function run(words: readonly string[], terminal: Terminal): Promise<number> {
  let exit = 0;
  const program = programFor(terminal, (code) => {
    exit = code;
  });
  try {
    await program.parseAsync([...words], { from: 'user' });
    return exit;
  } catch (error) {
    return told(error, terminal);
  }
}

function told(error: unknown, terminal: Terminal): number {
  if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : WRONG;
  const found = problemsOf(error);
  if (found !== null) {
    terminal.note(problemsText(found, terminal.look, shortener(terminal)));
    return Math.min(...found.map(({ code }) => codeOf[code] ?? WRONG));
  }
  const stack = error instanceof Error ? error.stack : String(error);
  terminal.note(`This is a fault of echo-rule itself, not of your project:\n${stack}\n`);
  return OUR_FAULT;
}

function programFor(terminal: Terminal, finish: (code: number) => void): Command {
  const program = new Command('echo-rule')
    .description('Say a rule once, hear the same answer from every layer, and prove it.')
    .version(version(), '--version', 'print the version')
    .option('--config <file>', 'the configuration', defaultConfig)
    .configureOutput({ writeOut: terminal.out, writeErr: terminal.note })
    .showHelpAfterError('(echo-rule --help lists the commands and options)')
    .addHelpText(
      'after',
      '\nExit codes: 0 all agree, 1 findings, 2 the command or configuration is wrong,\n3 a layer could not be reached, 4 a fault of echo-rule itself, 130 stopped by a signal.',
    )
    .exitOverride();
  const project = () => loadProject((program.opts() as Common).config);

  program
    .command('compile')
    .description('make validators, forms, SQL and the ledger from the rulesets')
    .option('--overwrite', 'make files anew that were edited by hand')
    .addOption(format())
    .action(async (options) => finish(compile(await project(), options, terminal)));
  program
    .command('review')
    .description('read the rules alone: contradictions, rules that say nothing, gaps between layers, slow patterns')
    .addOption(list('--ruleset <name>', 'look at this ruleset only (may be given several times)'))
    .addOption(
      new Option('--format <format>', 'how to print the result; sarif is for code hosts and editors')
        .choices(['text', 'json', 'sarif'])
        .default('text'),
    )
    .action(async (options) => finish(review(await project(), options, version(), terminal)));
  program
    .command('explain')
    .description("show one field's whole rule in every layer, with values just inside and just outside")
    .argument('<field>', 'the field, as firing.pieces; or its path alone where only one ruleset has it')
    .addOption(format())
    .action(async (field, options) => finish(explain(await project(), field, options, terminal)));
  program
    .command('probe')
    .description('give the boundary cases to every layer and print who disagrees')
    .addOption(list('--ruleset <name>', 'ask about this ruleset only (may be given several times)'))
    .addOption(list('--layer <name>', 'ask this layer only (may be given several times)'))
    .option('--known', 'list the differences that the ledger tells, too')
    .addOption(format())
    .action(async (options) => finish(await probe(await project(), options, terminal)));
  program
    .command('cases')
    .description('write the boundary cases, the most telling first, each with the verdict to expect and why')
    .addOption(list('--ruleset <name>', 'of this ruleset only (may be given several times)'))
    .addOption(list('--rule <id>', 'about this rule only, as firing.pieces.max (may be given several times)'))
    .addOption(list('--field <field>', 'about this field only, as firing.pieces (may be given several times)'))
    .addOption(new Option('--budget <count>', 'no more than so many').argParser(countOf))
    .option('--out <file>', 'a file to write, instead of standard output')
    .option('--overwrite', 'write over the file where it is there already')
    .addOption(
      new Option(
        '--format <format>',
        'JSON Lines, one JSON list, CSV, a script of SQL, a test file for node --test, or text to be read',
      )
        .choices(['jsonl', 'json', 'csv', 'sql', 'test', 'text'])
        .default('jsonl'),
    )
    .addOption(new Option('--engine <name>', 'whose SQL').choices(Object.keys(tableTargets)))
    .addOption(list('--module <file>', 'of a test file: the module to ask, or <ruleset>=<file>; else the compiled one'))
    .addOption(list('--url <address>', 'of a test file: the address to send new records to, or <ruleset>=<address>'))
    .option(
      '--strength',
      'plant mistakes in every compiled layer instead, and tell what the cases catch (text or json)',
    )
    .addOption(
      list(
        '--scratch <engine=address>',
        `of --strength: a server of ${scratchServers.join(' or ')} on which databases may be made and dropped`,
      ),
    )
    .action(async ({ strength: isAsked, ...options }) =>
      finish(await (isAsked === true ? strength : cases)(await project(), options, terminal)),
    );
  program
    .command('fill')
    .description('write plausible valid records, the same ones for the same seed, with all that they refer to')
    .argument('<count>', 'how many of each ruleset that no other refers to, or of those that are named', countOf)
    .addOption(new Option('--seed <number>', 'other records for another number').argParser(seedFrom).default(1))
    .addOption(list('--ruleset <name>', 'so many of this ruleset (may be given several times)'))
    .addOption(list('--beside <what>', 'repeat nothing of a layer of tables, by its name, or of <ruleset>=<file>'))
    .addOption(
      new Option('--format <format>', 'JSON Lines, CSV, or a script of SQL')
        .choices(['jsonl', 'csv', 'sql'])
        .default('jsonl'),
    )
    .addOption(new Option('--engine <name>', 'whose SQL').choices(Object.keys(tableTargets)))
    .option('--out <path>', 'a folder for a file of each ruleset; of SQL, the file')
    .option('--overwrite', 'write over files that are there already')
    .action(async (count, options) => finish(await fill(await project(), count, options, terminal)));
  program
    .command('try')
    .description("give one record to every layer and print each one's answer")
    .argument('<ruleset>', 'the ruleset that the record is of')
    .argument('<record>', 'the record as JSON, or - to read it from standard input')
    .addOption(
      new Option('--wire <wire>', 'how the record travels')
        .choices([...wires])
        .default('json')
        .argParser(wireOf),
    )
    .addOption(list('--layer <name>', 'ask this layer only (may be given several times)'))
    .addOption(format())
    .action(async (ruleset, record, options) =>
      finish(await tryRecord(await project(), ruleset, record, options, terminal)),
    );
  return program;
}

function format(): Option {
  return new Option('--format <format>', 'how to print the result').choices(['text', 'json']).default('text');
}

function list(flags: string, description: string): Option {
  return new Option(flags, description).argParser((value: string, before: string[] = []) => [...before, value]);
}

function countOf(said: string): number {
  if (!/^[1-9][0-9]{0,8}$/.test(said)) throw new InvalidArgumentError('Give a whole number from 1 on.');
  return Number(said);
}

function seedFrom(said: string): number {
  if (!/^[0-9]{1,9}$/.test(said)) throw new InvalidArgumentError('Give a whole number.');
  return Number(said);
}

function wireOf(said: string): Wire {
  const found = wires.find((wire) => wire === said);
  if (found === undefined) throw new InvalidArgumentError(`Choose one of ${wires.join(', ')}.`);
  return found;
}

function version(): string {
  const { version } = createRequire(import.meta.url)('../../package.json') as { readonly version: string };
  return version;
}
