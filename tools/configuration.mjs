// npm run configuration -- export|import FILE: the rules of an organisation as one JSON package, out of a running Kanonos or into it.
import { readFileSync, writeFileSync } from 'node:fs';
import { createInterface } from 'node:readline/promises';
import { fail, Hint, say } from './lib/say.mjs';

const USAGE = `npm run configuration -- export FILE | import FILE [--reason "why"]
  --server URL   where Kanonos runs (http://127.0.0.1:4400)
  --as NAME      an administrator's sign-in name (asked for when left out); the password comes from KANONOS_PASSWORD or is asked for
Without --reason an import only says what it would change.`;

const readArguments = ([command, file, ...words]) => {
  const options = { command, file, server: 'http://127.0.0.1:4400', as: undefined, reason: undefined };
  if (!['export', 'import'].includes(command) || !file) throw new Hint(USAGE);
  for (let i = 0; i < words.length; i += 2) {
    const name = words[i]?.replace(/^--/, '');
    if (!['server', 'as', 'reason'].includes(name) || words[i + 1] === undefined)
      throw new Hint(`${words[i]} is not known.\n${USAGE}`);
    options[name] = words[i + 1];
  }
  return options;
};

const question = async (words) => {
  const asked = createInterface({ input: process.stdin, output: process.stderr });
  const answer = await asked.question(words);
  asked.close();
  return answer.trim();
};

const call = async ({ server, cookie }, method, path, body) => {
  const answer = await fetch(new URL(path, server), {
    method,
    headers: {
      accept: 'application/json',
      origin: new URL(server).origin,
      ...(cookie ? { cookie } : {}),
      ...(body ? { 'content-type': 'application/json' } : {}),
    },
    ...(body ? { body: JSON.stringify(body) } : {}),
  }).catch(() => {
    throw new Hint(`Kanonos does not answer at ${server}.`);
  });
  const content = await answer.json().catch(() => ({}));
  if (!answer.ok)
    throw new Hint(
      (content.refusals ?? []).map((one) => one.detail).join('\n') || content.detail || `${answer.status}`,
    );
  return { content, cookie: answer.headers.get('set-cookie')?.split(';')[0] };
};

const main = async () => {
  if (process.argv.slice(2).some((word) => word === '--help' || word === '-h')) return say(USAGE);
  const { command, file, server, as, reason } = readArguments(process.argv.slice(2));
  const name = as ?? (await question('Sign-in name: '));
  const password = process.env.KANONOS_PASSWORD ?? (await question('Password: '));
  const { cookie } = await call({ server }, 'POST', '/api/session', { name, password });
  const organisation = { server, cookie };
  if (command === 'export') {
    const { content } = await call(organisation, 'GET', '/api/rules/package');
    const schema = new URL('/api/rules/package.schema.json', server).href;
    writeFileSync(file, `${JSON.stringify({ $schema: schema, ...content }, null, 2)}\n`);
    say(
      `${content.types.length} types, ${content.choices.length + content.lookups.length} lists and ${content.units.length} units are in ${file}.`,
    );
    return;
  }
  let wanted;
  try {
    wanted = JSON.parse(readFileSync(file, 'utf8'));
  } catch (error) {
    throw new Hint(`${file} cannot be read: ${error.message}`);
  }
  const { content } = await call(organisation, 'POST', '/api/rules/package/trial', { package: wanted });
  for (const change of content.changes) {
    say(`${change.isNew ? '+' : '~'} ${change.kind} ${change.name}`);
    for (const { what, before, after } of change.differences) say(`    ${what}: ${before} -> ${after}`);
  }
  say(`${content.changes.length} would change, ${content.same} are the same.`);
  if (!reason || content.changes.length === 0) return;
  const done = await call(organisation, 'POST', '/api/rules/package', { package: wanted, reason });
  say(`${done.content.changed} are changed.`);
};

main().catch(fail);
