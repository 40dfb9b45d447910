import { Minus, Plus } from 'lucide-react';
import { useRef, useState } from 'react';
import { useWidth } from '../../ui/useWidth.ts';
import { MarkLayer } from '../comments/MarkLayer.tsx';
import { MarkTools } from '../comments/MarkTools.tsx';
import { READING_WIDTH } from './pdfView.ts';
import { ScanNote } from './ScanNote.tsx';
import { Sheet } from './Sheet.tsx';
import { wording } from './wording.ts';

const MARGIN = 50;

/** A picture with the marks over it, made larger and smaller. */
export const PictureView = ({
  file,
  address,
  mark,
  name,
}: {
  /** Where the picture is what was filed, and not made from it. */
  file?: string;
  address: string;
  mark?: string | undefined;
  name: string;
}) => {
  const [zoom, setZoom] = useState(1);
  const [ratio, setRatio] = useState(0.75);
  const frame = useRef<HTMLDivElement>(null);
  const width = Math.min(READING_WIDTH, useWidth(frame) - MARGIN) * zoom;
  return (
    <div ref={frame} className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-2 border-b border-line bg-film-2 px-2 py-1 text-[12px]">
        <button
          type="button"
          className="btn btn-quiet !h-6 !px-1"
          aria-label={wording.zoomOut}
          onClick={() => setZoom((before) => Math.max(0.25, before - 0.25))}
        >
          <Minus size={14} aria-hidden />
        </button>
        <span className="num w-11 text-center">{Math.round(zoom * 100)} %</span>
        <button
          type="button"
          className="btn btn-quiet !h-6 !px-1"
          aria-label={wording.zoomIn}
          onClick={() => setZoom((before) => Math.min(6, before + 0.25))}
        >
          <Plus size={14} aria-hidden />
        </button>
        <MarkTools />
        {file && <ScanNote file={file} />}
      </div>
      <div
        className="min-h-0 flex-1 overflow-auto bg-film-3 px-4 py-3"
        tabIndex={0}
        role="region"
        aria-label={wording.textOf(name)}
        data-testid="viewer"
      >
        <Sheet mark={mark} width={width}>
          <img
            src={address}
            alt={name}
            className="w-full"
            onLoad={(event) => setRatio(event.currentTarget.naturalHeight / (event.currentTarget.naturalWidth || 1))}
          />
          <MarkLayer page={1} width={width} height={width * ratio} />
        </Sheet>
      </div>
    </div>
  );
};
