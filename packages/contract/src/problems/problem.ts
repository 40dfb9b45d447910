import type { RefusalCode, RefusalParameters } from '@kanonos/core';

type Sentence<P> = string | ((parameters: P, zone: string | undefined) => string);

/** Status, sentence and, where it is always the same, the control of a form that a refusal belongs to. */
export type Problem<P> = { status: number; sentence: Sentence<P>; field?: string };

/** Problems by their code: a sentence can use the parameters of its code and no others. */
export type Problems = { [C in RefusalCode]?: Problem<RefusalParameters<C>> };

/** One problem. `field` is the label of the control beside which a form shows the sentence. */
export const at = <P>(status: number, sentence: Sentence<P>, field?: string): Problem<P> => ({
  status,
  sentence,
  ...(field ? { field } : {}),
});

/** An instant among the parameters, as local time of the organisation. */
export const when = (value: string | number, zone: string | undefined): string => {
  const text = String(value);
  const date = new Date(text);
  if (!/T/.test(text) || Number.isNaN(date.getTime())) return text;
  return date.toLocaleString('en-GB', {
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
    ...(zone ? { timeZone: zone } : {}),
  });
};

/** The most likely intended value, where a similar one is known. */
export const meant = ({ near }: { near?: string | number | undefined }): string =>
  near ? ` (did you mean ${near}?)` : '';
