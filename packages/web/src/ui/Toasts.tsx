import { flushSync } from 'react-dom';
import { createRoot } from 'react-dom/client';
import { Toaster, toast } from 'sonner';

const place = document.body.appendChild(document.createElement('div'));
// At once, so that the first notice finds the place where it is shown.
flushSync(() =>
  createRoot(place).render(
    <Toaster
      position="bottom-center"
      toastOptions={{ style: { borderRadius: 2, border: '1px solid #12222a', fontFamily: 'inherit' } }}
    />,
  ),
);

export { toast };
