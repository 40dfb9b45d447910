/** A failure that a person can act on: one sentence that says what to do. */
export class Hint extends Error {}

export const say = (text) => process.stdout.write(`${text}\n`);

/** Ends the program with the sentence of a hint, or with the whole error when nobody foresaw it. */
export const fail = (error) => {
  process.stderr.write(
    error instanceof Hint ? `\nKanonos cannot go on: ${error.message}\n` : `${error?.stack ?? error}\n`,
  );
  process.exit(1);
};
