/** Whether somebody types where a key was pressed: letters are then letters, not keys of the page. */
export const isTyping = (event: Event): boolean =>
  event.target instanceof HTMLElement &&
  (event.target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName));
