import { markdown } from '@codemirror/lang-markdown';
import { EditorView } from '@codemirror/view';
import { basicSetup } from 'codemirror';
import { useEffect, useRef } from 'react';

const LOOK = EditorView.theme({
  '&': { height: '100%', fontSize: '13px', backgroundColor: 'var(--color-sheet)' },
  '.cm-scroller': { fontFamily: 'var(--font-mono)', lineHeight: '1.6' },
  '.cm-gutters': { backgroundColor: 'var(--color-film-2)', color: 'var(--color-ink-3)', border: 'none' },
  '.cm-activeLine, .cm-activeLineGutter': { backgroundColor: 'var(--color-petrol-tint)' },
  '&.cm-focused': { outline: '2px solid var(--color-petrol)', outlineOffset: '-2px' },
});

/** A text editor: the initial text is given once, every change is reported. */
export const TextEditor = ({
  label,
  start,
  isMarkdown,
  onChange,
}: {
  label: string;
  start: string;
  isMarkdown: boolean;
  onChange: (text: string) => void;
}) => {
  const holder = useRef<HTMLDivElement>(null);
  const change = useRef(onChange);
  change.current = onChange;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the editor holds its text itself from then on
  useEffect(() => {
    if (!holder.current) return;
    const view = new EditorView({
      doc: start,
      parent: holder.current,
      extensions: [
        basicSetup,
        EditorView.lineWrapping,
        LOOK,
        EditorView.contentAttributes.of({ 'aria-label': label }),
        EditorView.updateListener.of((update) => update.docChanged && change.current(update.state.doc.toString())),
        ...(isMarkdown ? [markdown()] : []),
      ],
    });
    view.focus();
    return () => view.destroy();
  }, []);
  return <div ref={holder} className="h-full min-h-0 overflow-hidden" />;
};
