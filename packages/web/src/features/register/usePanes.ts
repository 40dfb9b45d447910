import { useEffect, useState } from 'react';
import { tinykeys } from 'tinykeys';
import { isTyping } from '../../ui/typing.ts';

/** Open panes and row height; kept in the browser, because they depend on the screen and not on the person. */
export type Panes = { filters: boolean; preview: boolean; compact: boolean };

const KEY = 'kanonos.register.panes';
const isSmall = () => window.matchMedia?.('(max-width: 1023px)').matches ?? false;

const remembered = (): Panes => {
  const usual = { filters: !isSmall(), preview: !isSmall(), compact: false };
  try {
    // A small screen begins with the rows alone, whatever a large one was left with.
    return isSmall() ? usual : { ...usual, ...JSON.parse(localStorage.getItem(KEY) ?? '{}') };
  } catch {
    return usual;
  }
};

/** The panes of the register, closed and opened by a button or a key, and remembered. */
export const usePanes = (): [Panes, (pane: keyof Panes) => void] => {
  const [panes, setPanes] = useState(remembered);
  const toggle = (pane: keyof Panes) =>
    setPanes((before) => {
      const next = { ...before, [pane]: !before[pane] };
      if (!isSmall()) localStorage.setItem(KEY, JSON.stringify(next));
      return next;
    });
  useEffect(() => {
    const on = (pane: keyof Panes) => (event: KeyboardEvent) => {
      if (isTyping(event) || document.querySelector('[role="dialog"]')) return;
      event.preventDefault();
      toggle(pane);
    };
    return tinykeys(window, { f: on('filters'), p: on('preview'), c: on('compact') });
  });
  return [panes, toggle];
};
