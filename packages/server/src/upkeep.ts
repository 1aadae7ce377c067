import { createInterface } from 'node:readline';
import { Writable } from 'node:stream';
import { parseArgs } from 'node:util';
import { ROLES } from '@fennip/contract';
import { readConfig } from './context/config.ts';
import { connect } from './database/connect.ts';
import { migrate } from './database/migrations.ts';
import { addPerson, allPeople, removePerson } from './people/people.ts';
import { backUp } from './upkeep/backUp.ts';
import { checkStore } from './upkeep/checkStore.ts';
import { emptyStoreBin } from './upkeep/emptyStoreBin.ts';
import { restore } from './upkeep/restore.ts';

const USAGE = `check [--hashes]    holds the store against the database; --hashes reads every file
backup FOLDER       writes both into a folder as they are now, while the server goes on
restore FOLDER      brings a backup back into an empty database and an empty store
account add NAME [--role sees|works|runs]   asks for a password (runs where no role is said)
account list        who can sign in
account remove NAME takes somebody away
bin empty [--days N]  takes away what nothing named N days ago (30 where it is not said)`;

const { positionals, values } = parseArgs({
  allowPositionals: true,
  options: { hashes: { type: 'boolean' }, days: { type: 'string' }, role: { type: 'string' } },
});
const [command, argument, name] = positionals;
const { databaseUrl, storeFolder } = readConfig(process.env);
const database = connect(databaseUrl);

/** Takes what a terminal would echo. */
const silent = new Writable({ write: (_chunk, _encoding, done) => done() });

const megabytes = (bytes: number): string => `${(bytes / 1e6).toFixed(1)} MB`;

async function check(): Promise<number> {
  const report = await checkStore(database, storeFolder, values.hashes ? 'contents' : 'sizes');
  for (const line of report.broken) console.log(`LOST     ${line}`);
  for (const line of report.cutLevels) console.log(`CUT      ${line}`);
  for (const line of report.unknown) console.log(`UNNAMED  ${line}`);
  const read = values.hashes ? 'read whole' : 'by their sizes';
  console.log(
    `${report.files} files, ${megabytes(report.bytes)}, ${read}: ${report.broken.length} lost or damaged, ` +
      `${report.cutLevels.length} levels cut, ${report.unknown.length} that nothing names`,
  );
  return report.broken.length + report.cutLevels.length > 0 ? 1 : 0;
}

/** A line that is typed without being seen, or sent in. */
async function askPassword(): Promise<string> {
  const lines = createInterface({
    input: process.stdin,
    output: process.stdin.isTTY ? silent : undefined,
    terminal: process.stdin.isTTY,
  });
  if (process.stdin.isTTY) process.stderr.write('Password, at least twelve letters: ');
  const line = await new Promise<string>((resolve) => lines.once('line', resolve));
  lines.close();
  if (process.stdin.isTTY) process.stderr.write('\n');
  return line;
}

async function account(): Promise<number> {
  await migrate(database);
  const people = await allPeople(database);
  if (argument === 'list') {
    for (const one of people) console.log(`${one.name}\t${one.role}\tsince ${one.createdAt.slice(0, 10)}`);
    return 0;
  }
  if (argument === 'remove') {
    const one = people.find((person) => person.name.toLowerCase() === name.toLowerCase());
    if (!one) throw new Error(`Nobody is called ${name}.`);
    await removePerson(database, one.id);
    console.log(`${one.name} is taken away and signed out.`);
    return 0;
  }
  const role = ROLES.find((known) => known === (values.role ?? 'runs'));
  if (!role) throw new Error(`--role is one of ${ROLES.join(', ')}, got ${values.role}`);
  const password = await askPassword();
  if (password.length < 12) throw new Error('A password has at least twelve letters.');
  await addPerson(database, { name, role, password });
  console.log(`${name} can sign in.`);
  return 0;
}

async function carryOut(): Promise<number> {
  if (command === 'check') return check();
  if (command === 'backup' && argument) {
    const { files } = await backUp(database, databaseUrl, storeFolder, argument);
    console.log(`Backed up the database and ${files.length} files into ${argument}`);
    return 0;
  }
  if (command === 'restore' && argument) {
    const { files, madeAt } = await restore(database, databaseUrl, storeFolder, argument);
    console.log(`Brought back the database and ${files.length} files of ${madeAt}`);
    return 0;
  }
  if (command === 'account' && (argument === 'list' || name)) return account();
  if (command === 'bin' && argument === 'empty') {
    const days = Number(values.days ?? 30);
    if (!(days >= 0)) throw new Error(`--days must be a number from 0, got ${values.days}`);
    const gone = await emptyStoreBin(storeFolder, days);
    console.log(gone.length === 0 ? 'Nothing is old enough.' : `Emptied ${gone.join(', ')}`);
    return 0;
  }
  console.error(USAGE);
  return 2;
}

try {
  process.exitCode = await carryOut();
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exitCode = 1;
} finally {
  await database.destroy();
}
