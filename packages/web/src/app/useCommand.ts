import type { AnswerOf, Endpoint } from '@kanonos/contract';
import { useMutation } from '@tanstack/react-query';
import { toast } from '../ui/toast.ts';
import { type CallInput, call, refreshAll } from './client.ts';

/** A command: calls its endpoint, refreshes what is shown, reports the result in a sentence. */
export const useCommand = <E extends Endpoint>(
  endpoint: E,
  done?: string | ((answer: AnswerOf<E>) => string),
  then?: (answer: AnswerOf<E>) => void,
) =>
  useMutation({
    mutationFn: (input: CallInput<E>) => call(endpoint, input),
    onSuccess: async (answer) => {
      if (done) toast.success(typeof done === 'function' ? done(answer) : done);
      then?.(answer);
      await refreshAll();
    },
  });
