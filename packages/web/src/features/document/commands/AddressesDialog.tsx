import type { DocumentPage } from '@kanonos/contract';
import { useState } from 'react';
import { CloseButton, Dialog } from '../../../ui/controls.tsx';
import { lastingAddresses } from '../addresses.ts';
import { wording } from '../wording.ts';

/** The addresses of a document that do not change, each to copy. */
export const AddressesDialog = ({ page, close }: { page: DocumentPage; close: () => void }) => {
  const [copied, setCopied] = useState('');
  return (
    <Dialog open onClose={close} title={wording.permanentAddressesOf(page.number)} wide>
      <ul className="flex flex-col gap-2">
        {lastingAddresses(page, location.origin).map(({ name, address }) => (
          <li key={address} className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-2">
            <span className="min-w-0">
              <span className="cap block">{name}</span>
              <a href={address} className="link block truncate" title={address}>
                {address}
              </a>
            </span>
            <button
              type="button"
              className="btn"
              aria-label={wording.copyAddressOf(name)}
              onClick={() => void navigator.clipboard.writeText(address).then(() => setCopied(address))}
            >
              {copied === address ? wording.copied : wording.copy}
            </button>
          </li>
        ))}
      </ul>
      <CloseButton onClose={close} />
    </Dialog>
  );
};
