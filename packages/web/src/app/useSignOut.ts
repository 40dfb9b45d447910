import { api } from '@kanonos/contract';
import { useMutation } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { toast } from '../ui/toast.ts';
import { call, queryClient } from './client.ts';

/** Signs out here or on all devices; after a failure the person stays signed in and sees why. */
export const useSignOut = (everywhere: 'here' | 'everywhere') => {
  const navigate = useNavigate();
  return useMutation({
    mutationFn: () => call(api.session.signOut, { query: everywhere === 'everywhere' ? { everywhere: 'yes' } : {} }),
    onSuccess: () => {
      queryClient.clear();
      navigate('/signin');
    },
    onError: (error) => toast.error(error.message),
  });
};
