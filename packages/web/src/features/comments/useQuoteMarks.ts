import { type RefObject, useEffect } from 'react';
import { useCommenting } from './Commenting.tsx';
import { paint, rangeOfQuote, selectedQuote } from './textRanges.ts';

/**
 * Shows on a text which words are commented on, brings the chosen ones into view, and takes up what is selected so that it can be
 * commented on. `ready` tells when the text is there; `page` is which page it is, where a text has pages of their own.
 */
export const useQuoteMarks = (root: RefObject<HTMLElement | null>, ready: unknown, page?: number): void => {
  const state = useCommenting();
  const threads = state?.threads;
  const chosen = state?.chosen;
  const setQuote = state?.setQuote;
  const mayComment = state?.mayComment;
  // biome-ignore lint/correctness/useExhaustiveDependencies: `ready` changes the text
  useEffect(() => {
    const element = root.current;
    if (!element || !threads) return;
    const ranges = threads.flatMap((one) => {
      if (!one.quote || one.mark || one.place?.state !== 'here' || one.resolvedAt) return [];
      // Several pages may have the same words; the server tells which page is meant.
      if (page !== undefined && one.place.page !== null && one.place.page !== page) return [];
      const range = rangeOfQuote(element, { quote: one.quote, before: '', after: '', ...one.around });
      return range ? [{ id: one.id, range }] : [];
    });
    const mine = ranges.filter((one) => one.id === chosen);
    paint(
      'commented',
      element,
      ranges.filter((one) => one.id !== chosen).map((one) => one.range),
    );
    paint(
      'comment-chosen',
      element,
      mine.map((one) => one.range),
    );
    mine[0]?.range.startContainer.parentElement?.scrollIntoView({ block: 'center' });
    return () => {
      paint('commented', element, []);
      paint('comment-chosen', element, []);
    };
  }, [threads, chosen, ready, root, page]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is ready is what can be selected
  useEffect(() => {
    const element = root.current;
    if (!element || !setQuote || !mayComment) return;
    const take = () => {
      const quote = selectedQuote(element);
      if (quote) setQuote(quote);
    };
    element.addEventListener('pointerup', take);
    element.addEventListener('keyup', take);
    return () => {
      element.removeEventListener('pointerup', take);
      element.removeEventListener('keyup', take);
    };
  }, [root, ready, setQuote, mayComment]);
};
