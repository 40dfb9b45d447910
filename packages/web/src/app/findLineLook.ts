/** What was typed before the find line with its list had arrived. */
export type Begun = { text: string; isFocused: boolean; isSent: boolean };

/** The frame of the find line, the same before and after its list has arrived. */
export const FIND_LINE_FORM =
  'flex h-[30px] max-w-[560px] min-w-0 flex-1 items-center rounded-xs border border-night-2 bg-night px-2.5 text-mist';
export const FIND_LINE_INPUT = 'min-w-0 flex-1 bg-transparent text-white outline-none placeholder:text-mist';
