import { api, type BodyOf } from '@kanonos/contract';
import { type ReactNode, useState } from 'react';
import { useCommand } from '../../app/useCommand.ts';
import { FormDialog } from '../../ui/FormDialog.tsx';
import type { Told } from '../../ui/Meanwhile.tsx';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { asItStands, type Organisation } from './organisationBody.ts';
import { wording } from './wording.ts';

/** A dialog that changes a part of the organisation's settings; all the rest is sent as it is, with the state that was seen. */
export const OrganisationDialog = ({
  title,
  about,
  columns,
  saved = wording.organisationSaved,
  form,
  change,
  close,
  children,
}: {
  title: string;
  about?: ReactNode;
  columns?: boolean;
  saved?: string;
  form: Told & { base: Organisation };
  change: Partial<BodyOf<typeof api.rules.changeOrganisation>>;
  close: () => void;
  children: ReactNode;
}) => {
  const [reason, setReason] = useState('');
  const command = useCommand(api.rules.changeOrganisation, saved, close);
  return (
    <FormDialog
      title={title}
      about={about}
      {...(columns ? { columns } : { wide: true })}
      of={form}
      command={command}
      button={wording.save}
      ready={reason.trim() !== ''}
      onSubmit={() => command.mutate({ body: { ...asItStands(form.base), ...change, reason } })}
      onClose={close}
    >
      {children}
      <div className={columns ? 'col-span-2' : ''}>
        <ReasonField value={reason} onChange={setReason} />
      </div>
    </FormDialog>
  );
};
