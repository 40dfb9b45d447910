import { describe, expect, test } from 'vitest';
import { interfaceWords, wordingOf, wordsOfSource } from './lib/interfaceWords.ts';

const words = interfaceWords(process.cwd());
const inWords = ({ file, line, text }: { file: string; line: number; text: string }) => `${file}:${line} ${text}`;

/** Words that were given up for those of the trade; each with what is said instead. */
const RETIRED: readonly (readonly [RegExp, string])[] = [
  [/\bhouses?\b(?! number)/i, 'organisation'],
  [/\bfacts?\b/i, 'fields, metadata'],
  [/\b(old stock|before the house|taken over from)\b/i, 'legacy import'],
  [/\bto be filed\b/i, 'incoming'],
  [/\b(call(ed|s)? (it )?back)\b/i, 'recall'],
  [/\bdeclin(e|ed|es|ing)\b/i, 'reject'],
  [/\b(give|gives|gave|given) up\b/i, 'discard'],
  [/\bhindrances?\b/i, 'blocker'],
  [/\blifelines?\b/i, 'history'],
  [/\blens(es)?\b/i, 'scope'],
  [/\bparcels?\b/i, 'download package'],
  [/\bat the desk\b|\bdesk (file|program)s?\b/i, 'network drive, desktop application'],
  [/\b(newcomers?|people in place)\b/i, 'new joiners, current staff'],
  [/\b(the maker|of its maker)\b/i, 'supplier'],
  [/\bbeg[iau]ns? behind\b/i, 'starting number'],
  [/\bstands? in for\b|\bwho stands in\b/i, 'acting for'],
  [/\bin step with\b/i, 'named by rule'],
  [/\bturn the two around\b/i, 'swap sides'],
  [/\btake (all|them|it) (away|out)\b|\btake back\b/i, 'clear, remove'],
  [/\blately\b/i, 'recent'],
  [/\b(present|next) password\b/i, 'current password, new password'],
  [/\b(first value|what would be right|no value twice|would be right)\b/i, 'default value, validation message'],
  [/\bI mean it\b/i, 'the verb of the button'],
  [/\bwatched folder\b/i, 'intake folder'],
  [/\b(stands? (here|there)|wherefrom|be it)\b/i, 'plain order of words'],
  [/\b(laid|lay|lays) (down|out)\b/i, 'set, saved, created'],
  [/\blooks and words\b/i, 'branding and labels'],
  [/\brules as a file\b/i, 'export configuration'],
  [/\(if any\)/i, '(optional)'],
  [/^(OK|Acts)$/, 'the verb of the button'],
];

/** What a button begins with. */
const VERBS =
  /^(Abandon|Add|Answer|Apply|Assign|Back|Cancel|Change|Check|Choose|Clear|Close|Comment|Confirm|Continue|Copy|Correct|Create|Deactivate|Decide|Delete|Discard|Download|Edit|End|Export|Finish|Go|Import|Insert|Keep|Leave|Level|Make|Move|Next|Open|Plan|Prepare|Preview|Previous|Recall|Record|Register|Reject|Release|Remind|Remove|Rename|Reopen|Reply|Reserve|Reset|Resolve|Restore|Retire|Return|Review|Revise|Save|Select|Send|Set|Show|Sign|Skip|Start|Stay|Stop|Submit|Swap|Take|Try|Undo|Upload|Use|Verify|View|Withdraw|Zoom)\b/;

describe('what a person reads', () => {
  test('is found: every screen, refusal, event and mail has words', () => {
    for (const place of [
      'packages/web/src/features/desk',
      'packages/contract/src/problems',
      'features/trail/sentences',
    ])
      expect(words.filter(({ file }) => file.includes(place)).length).toBeGreaterThan(20);
  });

  test('has none of the words that were given up', () => {
    const found = words.flatMap((word) =>
      RETIRED.filter(([pattern]) => pattern.test(word.text)).map(([, instead]) => `${inWords(word)} (${instead})`),
    );
    expect(found).toEqual([]);
  });

  test('begins with a verb on every button', () => {
    expect(words.filter(({ kind, text }) => kind === 'button' && !VERBS.test(text)).map(inWords)).toEqual([]);
  });

  test('comes from one catalogue per feature: nothing is written between tags, in attributes or as a sentence elsewhere', () => {
    const stored = /^[a-z][a-z ]+$/;
    const elsewhere = words.filter(
      ({ file, kind, text }) =>
        /^packages\/web\/.*\.tsx$/.test(file) &&
        !file.endsWith('main.tsx') &&
        (kind === 'string'
          ? /^[A-Z]\S* /.test(text)
          : kind !== 'button' && /[A-Za-z]{2}/.test(text) && !stored.test(text)),
    );
    expect(elsewhere.map(inWords)).toEqual([]);
    expect(words.filter(({ file }) => file.endsWith('/wording.ts')).length).toBeGreaterThan(1500);
  });

  test('has no date in figures alone, whose order of day and month is a guess', () => {
    expect(
      words.filter(({ text }) => /\b(mm|dd)\/(mm|dd)\b|\b\d{1,2}\/\d{1,2}\/\d{2,4}\b/i.test(text)).map(inWords),
    ).toEqual([]);
  });
});

test('a button that reads its words from the catalogue is judged by them', () => {
  const wording = wordingOf(`export const wording = { checkOut: 'Check out', of: (n: number) => \`of \${n}\` };`);
  const source = 'const a = <button type="button"><Icon />{wording.checkOut}</button>;';
  expect(wordsOfSource('a.tsx', source, wording).map(({ kind, text }) => [kind, text])).toEqual([
    ['button', 'Check out'],
  ]);
});

test('words are told from keys, classes and statements', () => {
  const source = `
    const a = <button type="button" className="btn flex" onClick={() => go('checked out')}>Check out</button>;
    const b = <Field label="Reason" hint={\`At least \${n} characters\`} />;
    if (state === 'in force') rows(db, 'select title from documents where id = :id');
  `;
  expect(wordsOfSource('a.tsx', source).map(({ kind, text }) => [kind, text])).toEqual([
    ['string', 'checked out'],
    ['button', 'Check out'],
    ['attribute', 'Reason'],
    ['string', 'At least {…} characters'],
  ]);
});
