import { api } from '@kanonos/contract';
import type { MarkTool } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { Cloud, Highlighter, MoveUpRight, Pencil, Slash, Square, Stamp, Type, Undo2 } from 'lucide-react';
import { ask } from '../../app/client.ts';
import { COLOURS, useCommenting } from './Commenting.tsx';
import { wording } from './wording.ts';

const TOOLS: readonly { tool: MarkTool; name: string; Icon: typeof Square }[] = [
  { tool: 'cloud', name: wording.cloud, Icon: Cloud },
  { tool: 'box', name: wording.box, Icon: Square },
  { tool: 'arrow', name: wording.arrow, Icon: MoveUpRight },
  { tool: 'line', name: wording.line, Icon: Slash },
  { tool: 'free', name: wording.freeLine, Icon: Pencil },
  { tool: 'highlight', name: wording.highlight, Icon: Highlighter },
  { tool: 'text', name: wording.text, Icon: Type },
  { tool: 'stamp', name: wording.stamp, Icon: Stamp },
];

/** The tools to mark pages and pictures with: the chosen tool, a colour, the text of words and stamps, and undo. */
export const MarkTools = () => {
  const state = useCommenting();
  const { data } = useQuery({ ...ask(api.comments.stamps), staleTime: 60_000, enabled: state?.mayComment ?? false });
  if (!state?.mayComment) return null;
  const { pen, setPen } = state;
  const stamps = (data?.stamps ?? []).filter((stamp) => !stamp.retired);
  return (
    <div role="toolbar" aria-label={wording.markupTools} className="flex flex-wrap items-center gap-0.5">
      {TOOLS.filter(({ tool }) => tool !== 'stamp' || stamps.length > 0).map(({ tool, name, Icon }) => (
        <button
          key={tool}
          type="button"
          aria-label={name}
          title={name}
          aria-pressed={pen.tool === tool}
          className={`btn btn-quiet !h-6 !px-1 ${pen.tool === tool ? '!bg-ink !text-white' : ''}`}
          onClick={() =>
            setPen(
              pen.tool === tool
                ? { ...pen, tool: null }
                : tool === 'stamp'
                  ? { tool, colour: stamps[0]?.colour ?? pen.colour, text: stamps[0]?.text ?? '' }
                  : { ...pen, tool, text: tool === 'text' ? wording.text : '' },
            )
          }
        >
          <Icon size={14} aria-hidden />
        </button>
      ))}
      {pen.tool === 'text' && (
        <input
          aria-label={wording.textOnTheMark}
          className="inp !h-6 !w-36"
          maxLength={200}
          value={pen.text}
          onChange={(event) => setPen({ ...pen, text: event.target.value })}
        />
      )}
      {pen.tool === 'stamp' && (
        <select
          aria-label={wording.stamp}
          className="inp !h-6 !w-40"
          value={pen.text}
          onChange={(event) => {
            const stamp = stamps.find((one) => one.text === event.target.value);
            setPen({ ...pen, text: event.target.value, colour: stamp?.colour ?? pen.colour });
          }}
        >
          {stamps.map((stamp) => (
            <option key={stamp.id}>{stamp.text}</option>
          ))}
        </select>
      )}
      {pen.tool && pen.tool !== 'stamp' && (
        <span role="radiogroup" aria-label={wording.colour} className="ml-1 flex gap-1">
          {COLOURS.map((colour) => (
            <label key={colour} className="flex cursor-pointer">
              <input
                type="radio"
                name="mark colour"
                className="peer sr-only"
                aria-label={wording.colourColour(colour)}
                checked={pen.colour === colour}
                onChange={() => setPen({ ...pen, colour })}
              />
              <span
                className="h-4 w-4 border-2 border-sheet outline outline-line peer-checked:outline-2 peer-checked:outline-ink"
                style={{ background: colour }}
              />
            </label>
          ))}
        </span>
      )}
      <button
        type="button"
        aria-label={wording.undoLastMark}
        title={wording.undoLastMark}
        className="btn btn-quiet !h-6 !px-1"
        disabled={!state.canUndo}
        onClick={state.undo}
      >
        <Undo2 size={14} aria-hidden />
      </button>
    </div>
  );
};
