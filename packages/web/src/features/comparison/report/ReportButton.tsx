import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { useMe } from '../../../app/session.tsx';
import { showInstant } from '../../../ui/format.ts';
import { saveFile } from '../../../ui/saveFile.ts';
import { toast } from '../../../ui/toast.ts';
import type { Comparison } from '../useComparison.ts';
import { wording } from '../wording.ts';
import { canReport, makeReport } from './makeReport.ts';

/** Takes the comparison along as a PDF, with how far it is while it is made. */
export const ReportButton = ({ comparison, title }: { comparison: Comparison; title: string }) => {
  const me = useMe();
  const [progress, setProgress] = useState('');
  const command = useMutation({
    mutationFn: () => {
      const made = wording.createdBy(me.name, showInstant(new Date().toISOString(), me.organisation.zone));
      return makeReport(comparison, { title, made }, setProgress);
    },
    onSuccess: ({ name, bytes }) => saveFile(name, bytes as BlobPart, 'application/pdf'),
    onError: (error) => toast.error(error.message),
  });
  return (
    <button
      type="button"
      className="btn print:hidden"
      disabled={command.isPending || !canReport(comparison)}
      onClick={() => command.mutate()}
    >
      {command.isPending ? wording.pdfProgress(progress) : wording.exportPdf}
    </button>
  );
};
