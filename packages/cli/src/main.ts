import { parseArgs } from 'node:util';
import { type IntakeRules, Refusal, readRules, refuse, SPEC_LIBRARY } from '@tolvik/core';
import { act, acts } from './act';
import { check } from './check';
import { exportFiles } from './export';
import { list } from './list';
import { readPlain } from './read-file';
import { err, harmless, letReadersGo } from './say';
import { verify } from './verify';
import { watchFiles } from './watch';

const USAGE = `tolvik: from a project file, or from SVG files and a spec, to every file of a handover

  tolvik list   SOURCE [--spec NAME] [--pieces 3-9,12]
  tolvik check  SOURCE [--spec NAME] [--pieces 3-9,12] [--rules FILE] [--strict]
  tolvik export SOURCE --out FOLDER [--spec NAME] [--pieces 3-9,12] [--jobs N] [--rules FILE]
                [--receipt [--leftovers list|remove] [--replace] [--project NAME]]
  tolvik watch  SOURCE --out FOLDER [--spec NAME] [--rules FILE] [--jobs N] [--leftovers list|remove] [--replace] [--project NAME]
  tolvik verify FOLDER
  tolvik acts
  tolvik do     ACT SOURCE [--pieces 3-9,12] [--layer NAME]… [--edition NAME] [--set NAME=VALUE]…
                [--leave-artwork] [--out FILE]

SOURCE is a project file saved by Tolvik, an SVG file, or a folder of SVG files.
--spec takes a spec of the project by its name, or a ready-made one (needed for plain SVG files):
  ${SPEC_LIBRARY.map(({ key }) => key).join(', ')};
  or a spec that was saved as a file (NAME.json).
--rules takes a file of what a receiver takes (docs/intake-rules.schema.json): check makes every file and tells what breaks them, export writes none of it.
--strict has check fail for warnings, too.
export writes only what differs. --receipt keeps delivery.json beside the files: what is left over from before is listed,
  or taken away with --leftovers remove; what somebody else put or changed is told, and replaced only with --replace.
--project names whose the files are, by which a folder is known to be its own; else a project file says it, else the way from the folder to the source.
watch does as export with --receipt does, and again a moment after each change of the source, until Ctrl+C.
verify holds a folder that deliveries are written to against its receipt: what is missing, changed, extra.
do does what a hand can do on the Bench, and writes the project file back, or to --out; acts lists what there is.
--set takes a setting of the act (marginPx=4, or table=@cards.csv for the cells of a table); what lies on artboards goes along unless --leave-artwork is said.
--pieces picks by number (3-9,12) or by text in the name.

Exit code 0: all came out. 1: something did not, or nothing was there to do it with; said on standard error. 2: the call itself was wrong.
`;

/** Reads rules from a file. Throws a `Refusal` that says what is wrong with them. */
function rulesIn(path: string): IntakeRules {
  const text = readPlain(path).toString('utf8');
  const rules = readRules(text);
  return typeof rules === 'string' ? refuse('rules.wrong', rules, { where: path }) : rules;
}

/** The command line: no database, the same plan and the same bytes as the server. */
async function main(): Promise<number> {
  let parsed: ReturnType<typeof read>;
  try {
    parsed = read();
  } catch (error) {
    process.stderr.write(`${harmless((error as Error).message)}\n\n${USAGE}`);
    return 2;
  }
  const { positionals, values } = parsed;
  const [command, source] = positionals;
  if (values.help || !command) {
    process.stdout.write(USAGE);
    return values.help ? 0 : 2;
  }
  if (command === 'acts' && !source) return acts();
  if (command === 'do') {
    const [, name, file, ...more] = positionals;
    if (!name || !file || more.length > 0) {
      process.stderr.write(`an act and one source are needed\n\n${USAGE}`);
      return 2;
    }
    return act({
      act: name,
      source: file,
      out: values.out,
      pieces: values.pieces,
      layers: values.layer ?? [],
      edition: values.edition,
      settings: values.set ?? [],
      leaveArtwork: values['leave-artwork'] ?? false,
    });
  }
  if (!source || positionals.length > 2) {
    process.stderr.write(
      `${source ? `one source at a time, not ${positionals.length - 1}` : 'a source is missing'}\n\n${USAGE}`,
    );
    return 2;
  }
  const selection = { source, spec: values.spec, pieces: values.pieces };
  const rules = values.rules === undefined ? undefined : rulesIn(values.rules);
  switch (command) {
    case 'list':
      return list(selection);
    case 'check':
      return check(selection, rules, values.strict ?? false);
    case 'verify':
      return verify(source);
    case 'export':
    case 'watch': {
      if (!values.out) {
        err('--out is missing: the folder to write to');
        return 2;
      }
      const jobs = values.jobs === undefined ? undefined : Number(values.jobs);
      if (jobs !== undefined && !(Number.isInteger(jobs) && jobs >= 1 && jobs <= 64)) {
        err('--jobs takes a whole number from 1 to 64');
        return 2;
      }
      const { leftovers = 'list' } = values;
      if (leftovers !== 'list' && leftovers !== 'remove') {
        err('--leftovers takes list or remove');
        return 2;
      }
      if ((values.leftovers || values.replace) && !values.receipt && command === 'export') {
        err('--leftovers and --replace need --receipt, by which it is known whose a file is');
        return 2;
      }
      const options = {
        out: values.out,
        project: values.project,
        jobs,
        receipt: values.receipt ?? command === 'watch',
        rules,
        removeLeftovers: leftovers === 'remove',
        replaceForeign: values.replace ?? false,
      };
      return command === 'watch' ? watchFiles(selection, options) : exportFiles(selection, options);
    }
    default:
      process.stderr.write(`there is no command "${harmless(command)}"\n\n${USAGE}`);
      return 2;
  }
}

const read = () =>
  parseArgs({
    allowPositionals: true,
    options: {
      out: { type: 'string' },
      spec: { type: 'string' },
      pieces: { type: 'string' },
      jobs: { type: 'string' },
      layer: { type: 'string', multiple: true },
      edition: { type: 'string' },
      set: { type: 'string', multiple: true },
      'leave-artwork': { type: 'boolean' },
      receipt: { type: 'boolean' },
      rules: { type: 'string' },
      leftovers: { type: 'string' },
      replace: { type: 'boolean' },
      project: { type: 'string' },
      strict: { type: 'boolean' },
      help: { type: 'boolean', short: 'h' },
    },
  });

let streamsFailed = false;
letReadersGo(() => {
  streamsFailed = true;
});

/** Refusals of the call itself, not of what it was asked to work on. */
const WRONG_USE = new Set([
  'rules.wrong',
  'spec.unknown',
  'spec.missing',
  'set.form',
  'act.unknown',
  'out.missing',
  'input',
]);

try {
  process.exitCode = await main();
} catch (error) {
  if (error instanceof Refusal) {
    const { message, accepted, code } = error.problem;
    err(`${message}${accepted ? ` (accepted: ${accepted})` : ''}`);
    process.exitCode = WRONG_USE.has(code) ? 2 : 1;
  } else {
    err(error instanceof Error ? error.message : String(error));
    process.exitCode = 1;
  }
}
if (streamsFailed) process.exitCode ||= 1;
