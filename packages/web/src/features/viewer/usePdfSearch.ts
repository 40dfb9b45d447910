import type { PDFDocumentProxy } from 'pdfjs-dist';
import { useEffect, useRef, useState } from 'react';

export type PdfSearch = {
  words: string;
  setWords: (words: string) => void;
  hits: readonly { page: number; nth: number }[];
  index: number;
  step: (by: 1 | -1) => void;
  busy: boolean;
};

const MOST = 2000;

/** Looks for words on all pages, one after the other, so that a long PDF does not hold up typing. */
export const usePdfSearch = (pdf: PDFDocumentProxy | null): PdfSearch => {
  const [words, setWords] = useState('');
  const [hits, setHits] = useState<{ page: number; nth: number }[]>([]);
  const [index, setIndex] = useState(0);
  const [busy, setBusy] = useState(false);
  const texts = useRef(new Map<number, string>());
  useEffect(() => {
    const needle = words.trim().toLowerCase();
    setHits([]);
    setIndex(0);
    setBusy(false);
    if (!pdf || needle.length < 2) return;
    let stopped = false;
    const look = async () => {
      setBusy(true);
      const found: { page: number; nth: number }[] = [];
      for (let page = 1; page <= pdf.numPages && !stopped && found.length < MOST; page++) {
        let text = texts.current.get(page);
        if (text === undefined) {
          const content = await (await pdf.getPage(page)).getTextContent();
          text = content.items
            .map((item) => ('str' in item ? item.str : ''))
            .join(' ')
            .toLowerCase();
          texts.current.set(page, text);
        }
        let nth = 0;
        for (let at = text.indexOf(needle); at >= 0; at = text.indexOf(needle, at + needle.length))
          found.push({ page, nth: nth++ });
        if (page % 20 === 0 && !stopped) setHits([...found]);
      }
      if (stopped) return;
      setHits(found);
      setBusy(false);
    };
    const timer = setTimeout(() => void look(), 200);
    return () => {
      stopped = true;
      clearTimeout(timer);
    };
  }, [pdf, words]);
  return {
    words: words.trim().length >= 2 ? words.trim() : '',
    setWords,
    hits,
    index,
    busy,
    step: (by) => setIndex((before) => (hits.length ? (before + by + hits.length) % hits.length : 0)),
  };
};
