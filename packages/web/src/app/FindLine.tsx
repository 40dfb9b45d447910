import { api } from '@kanonos/contract';
import { useEffect, useRef, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { tinykeys } from 'tinykeys';
import { documentAddress } from '../ui/addresses.ts';
import { Key } from '../ui/controls.tsx';
import { call } from './client.ts';
import { wording } from './wording.ts';

/** Goes to a number typed in any usual form, else to what was found. */
export const FindLine = () => {
  const [params] = useSearchParams();
  const [text, setText] = useState(params.get('q') ?? '');
  const input = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  useEffect(
    () =>
      tinykeys(window, {
        '$mod+k': (event) => {
          event.preventDefault();
          input.current?.select();
        },
      }),
    [],
  );
  const go = async () => {
    const q = text.trim();
    if (!q) return;
    try {
      const found = await call(api.find.find, { query: { q, limit: 1 } });
      if (found.goTo) {
        setText('');
        input.current?.blur();
        navigate(documentAddress(found.goTo));
      } else navigate(`/find?q=${encodeURIComponent(q)}`);
    } catch (error) {
      toast.error((error as Error).message);
    }
  };
  return (
    <form
      role="search"
      className="flex h-[30px] max-w-[560px] min-w-0 flex-1 items-center rounded-xs border border-night-2 bg-night px-2.5 text-mist"
      onSubmit={(event) => {
        event.preventDefault();
        void go();
      }}
    >
      <input
        ref={input}
        value={text}
        onChange={(event) => setText(event.target.value)}
        aria-label={wording.enterANumberOrSearchText}
        placeholder={wording.enterANumberOrSearchText}
        className="min-w-0 flex-1 bg-transparent text-white outline-none placeholder:text-mist"
      />
      <span className="max-lg:hidden">
        <Key>{wording.ctrlK}</Key>
      </span>
    </form>
  );
};
