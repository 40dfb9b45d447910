/** Prints every sentence and label that a person can see, with file and line: to review them, and to translate them one day. */
import { interfaceWords } from './lib/interfaceWords.ts';

for (const { file, line, kind, text } of interfaceWords(process.cwd()))
  process.stdout.write(`${file}:${line}\t${kind}\t${text}\n`);
